/** All text of the application as a whole, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  App: {
    opening: "Opening",
    tryAgain: "Try again",
    scene: "Scene",
    elements: "Elements",
    comp: "Comp",
    delivery: "Delivery",
  },
  Desk: {
    openingTheDesk: (name: string) => `Opening the ${name} desk`,
    theDeskStopped: (name: string, value: string) => `The ${name} desk stopped: ${value}`,
    whatWasSavedIsKept: "What was saved is kept. Open the desk again; the other desks work as before.",
    desks: "Desks",
    openItAgain: "Open it again",
    allProjects: "All projects",
    scene: "Scene",
    elements: "Elements",
    comp: "Comp",
    delivery: "Delivery",
  },
} as const;
