/** A key as a command names it. */
export type Key = {
  /** What the key gives, as the browser says it: a small letter, a digit, a sign, or a name such as "Delete". */
  key: string;
  ctrl?: boolean;
  shift?: boolean;
};

/** What of a key's event is looked at. */
export type Press = Pick<KeyboardEvent, "key" | "code" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">;

/** Whether what a key gives is of the Latin keyboards: then it is what is printed on it, wherever it lies. */
const isLatin = (key: string) => key.length > 1 || key.charCodeAt(0) < 128;

/** Where the letter or digit of a key lies on the keyboard (UI Events KeyboardEvent code Values, clause 3.1). */
const codesOf = (key: string): readonly string[] =>
  /^[a-z]$/.test(key) ? [`Key${key.toUpperCase()}`] : /^\d$/.test(key) ? [`Digit${key}`, `Numpad${key}`] : [];

/**
 * Whether a press is this key. Letters go by what is printed on the key, with Caps Lock or without; where the layout is not Latin, by
 * where the key lies. Digits go by where they lie as well: some layouts give them with Shift only.
 */
export function isPressed(press: Press, { key, ctrl = false, shift }: Key): boolean {
  if ((press.ctrlKey || press.metaKey) !== ctrl || press.altKey) return false;
  if (shift !== undefined && press.shiftKey !== shift) return false;
  if (press.key.toLowerCase() === key.toLowerCase()) return true;
  if (/^\d$/.test(key)) return !press.shiftKey && codesOf(key).includes(press.code);
  return !isLatin(press.key) && codesOf(key).includes(press.code);
}

const names: Readonly<Record<string, string>> = {
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  Enter: "Enter",
  Escape: "Esc",
  Delete: "Del",
  PageDown: "Page Down",
  PageUp: "Page Up",
  " ": "Space",
};

/** A key in words, as it stands on keyboards. */
export const keyWords = ({ key, ctrl, shift }: Key): string =>
  [ctrl && "Ctrl", shift && "Shift", names[key] ?? (key.length === 1 ? key.toUpperCase() : key)]
    .filter(Boolean)
    .join(" ");
