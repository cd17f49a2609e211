/** All text of the list of projects, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  Projects: {
    newProject: " New project",
    projects: "Projects",
    lookingForYourProjects: "Loading your projects",
    aProjectHoldsTheElements:
      "A project holds the elements, comps and deliveries of one film. Only its members see it.",
    noCompYet: "No comp yet",
    emptyYet: "Nothing in it yet",
    touched: (ago: string) => `last change ${ago}`,
    noProjectYet: "No project yet",
    newProject2: "New project",
    name: "Name",
    cancel: "Cancel",
    create: "Create",
  },
} as const;
