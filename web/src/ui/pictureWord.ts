/** What stands in a text for a picture: its first sixteen digits are enough among those of one document. */
export const pictureWord = (picture: string) => `[picture ${picture.slice(0, 16)}]`;

/** Parts a text at its pictures: every second part is what one is called by. */
export const partedAtPictures = (text: string): string[] => text.split(/\[picture ([0-9a-f]{16})\]/);
