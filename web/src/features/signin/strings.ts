/** All text of signing in, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  SignIn: {
    neatVeil: " Neat Veil",
    passesGraphicsAndPlatesLayered: "Passes, graphics and plates, layered without a trace.",
    name: "Name",
    password: "Password",
    signingIn: "Signing in …",
    signIn: "Sign in",
  },
} as const;
