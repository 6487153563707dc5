let say: (words: string) => void = () => undefined;

/** Where what is said goes, while the house stands. */
export function announceBy(speaker: (words: string) => void) {
  say = speaker;
}

/** Says something that a key did to whoever does not see it. */
export const announce = (words: string) => say(words);
