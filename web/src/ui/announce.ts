/** Something that was done, to be read out, and shown for a moment where nothing else on the page shows it. */
export type Said = { words: string; isShown: boolean };

let say: (said: Said) => void = () => undefined;

/** Where what is said goes, while the house stands. */
export function announceBy(speaker: (said: Said) => void) {
  say = speaker;
}

/** Says something that a key did to whoever does not see it. */
export const announce = (words: string) => say({ words, isShown: false });

/** Says something that shows nowhere else to everybody. */
export const tell = (words: string) => say({ words, isShown: true });
