/** All text of the Delivery desk, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  DeliveryCard: {
    as: (format_title: string) => `as ${format_title}`,
    to: (first: number, last: number, rate: string, folder: string, file: string) =>
      `${first} to ${last}, ${rate}, ${folder}/${file}`,
    proved: " proved",
    notAsMeant: " not as meant",
    liesIn: "lies in",
    hideTheFiles: "Hide the files",
    n1FileWithItsHash: "1 file with its hash",
    filesWithTheirHashes: (count: number) => `${count} files with their hashes`,
  },
  DeliveryDesk: {
    orderADelivery: "Order a delivery",
    thereIsNoCompYet: "There is no comp yet; make one on the Comp desk.",
    deliveries: "Deliveries",
    lookingForTheDeliveries: "Looking for the deliveries",
    orderOneOnTheLeft:
      "Order one on the left. It is written in the background; then every file is opened again and compared with what was meant.",
    nothingDeliveredYet: "Nothing delivered yet",
  },
  OrderForm: {
    comp: "Comp",
    format: "Format",
    firstFrame: "First frame",
    lastFrame: "Last frame",
    frameRateFps: "Frame rate (fps)",
    folder: "Folder",
    aFolderAmongTheProjects: "A folder among the project’s deliveries. Nothing there is ever written over.",
    fileName: "File name",
    deliverItWithoutThatLight: "Deliver it without that light",
    lookingAtThreeFrames: "Looking at three frames …",
    deliver: "Deliver",
  },
} as const;
