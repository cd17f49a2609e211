/** All text of the Delivery desk, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  DeliveryCard: {
    whatStays: "The files stay where they are",
    as: (format_title: string) => `as ${format_title}`,
    to: (first: number, last: number, rate: string, folder: string, file: string) =>
      `${first} to ${last}, ${rate}, ${folder}/${file}`,
    proved: " proved",
    notAsMeant: " not as ordered",
    liesIn: "lies in",
    hideTheFiles: "Hide the files",
    n1FileWithItsHash: "1 file with its hash",
    filesWithTheirHashes: (count: number) => `${count} files with their hashes`,
    deliveryOf: (comp_name: string) => `Delivery of ${comp_name}`,
    inLight: (value: string) => `${value} in light`,
    of255: (value: string) => `${value} of 255`,
    ofWord: (frames_found: number, frames_meant: number, value: string) =>
      `${frames_found} of ${frames_meant}${value}`,
    framesHoldNone: (rate: string) => `${rate} (frames carry no rate)`,
    alphaRange: "alpha range",
    to2: (value: string, value2: string) => `${value} to ${value2}`,
    largestError: "largest error",
    colourAlpha: (colour_error: string, alpha_error: string, value: string) =>
      `colour ${colour_error}, alpha ${alpha_error}${value}`,
    lightLost: "light lost",
    withLightAtAlpha0: (lost_light: string) =>
      `${lost_light} with light at alpha 0, which this format cannot hold`,
    outside0To1: (clipped: string) => `${clipped} outside 0 to 1`,
    missing: (value: string) => `, missing ${value}`,
    noneMissing: ", none missing",
    frame: (worst_frame: number) => `, frame ${worst_frame}`,
  },
  DeliveryDesk: {
    orderADelivery: "Order a delivery",
    thereIsNoCompYet: "There is no comp yet; make one on the Comp desk.",
    deliveries: "Deliveries",
    lookingForTheDeliveries: "Loading the deliveries",
    orderOneOnTheLeft:
      "Order one on the left. It is written in the background; then every file is opened again and compared with the comp.",
    nothingDeliveredYet: "Nothing delivered yet",
  },
  OrderForm: {
    comp: "Comp",
    format: "Format",
    firstFrame: "First frame",
    lastFrame: "Last frame",
    frameRateFps: "Frame rate (fps)",
    rowsOfTheList: "Rows of the list",
    noneTheCompAsItIs: "none: the comp as it is",
    writeRows: (n: number) => `Write rows as 1-3,5; the list has ${n}.`,
    deliveriesOf: (n: number) =>
      n === 1 ? "One delivery, named after its row." : `${n} deliveries, named after their rows.`,
    folder: "Folder",
    aFolderAmongTheProjects: "A folder among the project’s deliveries. Nothing there is ever overwritten.",
    fileName: "File name",
    deliverItWithoutThatLight: "Deliver it without that light",
    lookingAtThreeFrames: "Checking three frames …",
    deliver: "Deliver",
  },
} as const;
