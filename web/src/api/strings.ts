/** All text of calls to the server that went wrong on the way, by the file that shows it. */
export const text = {
  client: {
    theServerAnswered: (status: number) => `The server answered ${status}.`,
    tryAgainIfItStays: "Try again; if it stays so, look into the server's log.",
    theServerDoesNotAnswer: "The server does not answer.",
    nothingWasLostCheckThat: "Nothing was lost; check that it runs and try again.",
  },
  importFiles: {
    couldNotBeSentThe: (name: string) => `${name} could not be sent: the connection was lost.`,
    whatCameIsKeptDrop: "What arrived is kept: drop the same files again, and the import goes on from there.",
  },
  pictures: {
    thePictureWasCutOff: "The picture was cut off.",
    tryAgain: "Try again.",
  },
} as const;
