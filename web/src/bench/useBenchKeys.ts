import type { Verdict } from "../api/types";
import { useCommands } from "../commands/registry";
import { toggleShading } from "../viewer/seen/shading";
import { arrangings, type Arranging, type ArrangingName } from "./arranging";
import type { DrawnName } from "../viewer/shapes";
import { drawings, drawnNames } from "./drawing";
import type { ToolName } from "./useHand";

/** What the keys of the bench do; null where it cannot be done now. */
export type BenchActs = {
  arranging: Arranging;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** Erases what is picked of one's own. */
  erase: (() => void) | null;
  verdict: ((verdict: Verdict) => void) | null;
  /** Takes the verdict on the item back. */
  notYet: (() => void) | null;
  /** Opens what is to be signed. */
  sign: (() => void) | null;
  next: () => void;
  before: () => void;
  tool: (tool: ToolName) => void;
  /** What can be drawn where one looks. */
  drawn: readonly DrawnName[];
  /** Sets a point of the tool in hand by numbers. */
  typePoint: (() => void) | null;
  /** Begins a note to the markup that is picked. */
  noteTo: (() => void) | null;
  /** Counts coordinates from what is picked. */
  origin: (() => void) | null;
  writeAnew: (() => void) | null;
  copy: (() => void) | null;
  /** Goes to the next note that is listed, or the one before. */
  note: ((by: 1 | -1) => void) | null;
  /** Picks one of one's own on the sheet after the other. */
  pickNext: (() => void) | null;
  /** Picks all of one's own on the sheet. */
  pickAll: (() => void) | null;
  /** Hides all overlays but one's own, or all of them; shows them again. */
  plain: () => void;
  only: (() => void) | null;
  fit: () => void;
  beside: () => void;
  leave: () => void;
};

const verdicts: readonly [key: string, verdict: Verdict, words: string][] = [
  ["1", "approve", "Approve the item"],
  ["2", "approveAsNoted", "Approve the item as noted"],
  ["3", "returnForChanges", "Return the item for changes"],
];

/** What answers to Enter by itself. */
const TYPED = "a, button, summary, input, select, [role=radio]";

/** What can be done on the bench by key, or from the list of commands. */
export function useBenchKeys(acts: BenchActs) {
  const { verdict } = acts;
  useCommands("Bench", "bench", [
    ...verdicts.map(([key, which, words]) => ({
      id: which,
      words,
      keys: [{ key }],
      run: verdict && (() => verdict(which)),
    })),
    { id: "not-yet", words: "Take the verdict back: not yet", keys: [{ key: "4" }], run: acts.notYet },
    { id: "sign", words: "Sign", keys: [{ key: "Enter", ctrl: true }], run: acts.sign },
    { id: "next", words: "Next item", keys: [{ key: "n", shift: false }], run: acts.next },
    { id: "before", words: "Item before", keys: [{ key: "n", shift: true }], run: acts.before },
    {
      id: "origin",
      words: "Count coordinates from what is picked, or from the file’s own origin",
      keys: [{ key: "h", shift: true }],
      run: acts.origin,
    },
    ...drawnNames.map((name) => ({
      id: name,
      words: `Draw: ${drawings[name].words.toLowerCase()}`,
      keys: [{ key: drawings[name].key }],
      run: acts.drawn.includes(name) ? () => acts.tool(name) : null,
    })),
    {
      id: "note-to",
      words: "Write a note to what is picked",
      keys: [{ key: "Enter" }],
      leftTo: TYPED,
      run: acts.noteTo,
    },
    ...(Object.keys(arrangings) as ArrangingName[]).map((name) => {
      const { words, ...keys } = arrangings[name];
      return {
        id: `arrange-${name}`,
        words: `What is picked: ${words.toLowerCase()}`,
        keys: [keys],
        run: acts.arranging[name],
      };
    }),
    { id: "type-point", words: "Set a point by numbers", keys: [{ key: ";" }], run: acts.typePoint },
    { id: "words-of", words: "Write its words anew", keys: [{ key: "F2" }], run: acts.writeAnew },
    { id: "copy", words: "Copy what is picked", keys: [{ key: "c", ctrl: true, shift: false }], run: acts.copy },
    { id: "next-note", words: "Next note", keys: [{ key: "." }], run: acts.note && (() => acts.note!(1)) },
    { id: "note-before", words: "Note before", keys: [{ key: "," }], run: acts.note && (() => acts.note!(-1)) },
    { id: "pick-all", words: "Pick all you drew on the sheet", keys: [{ key: "a", ctrl: true }], run: acts.pickAll },
    {
      id: "pick-next",
      words: "Pick the next you drew on the sheet",
      keys: [{ key: "v", shift: true }],
      run: acts.pickNext,
    },
    { id: "look", words: "Look, pick and move", keys: [{ key: "v", shift: false }], run: () => acts.tool("look") },
    {
      id: "plain",
      words: "The plain sheet, and everything again",
      keys: [{ key: "y", shift: false }],
      run: acts.plain,
    },
    { id: "only", words: "Only the overlay you draw on", keys: [{ key: "y", shift: true }], run: acts.only },
    { id: "fit", words: "Fit the whole sheet", keys: [{ key: "f" }], run: acts.fit },
    { id: "beside", words: "Show another sheet beside", keys: [{ key: "b" }], run: acts.beside },
    { id: "seen", words: "Shade what you have not seen", keys: [{ key: "s" }], run: toggleShading },
    { id: "leave", words: "Leave the tool", keys: [{ key: "Escape" }], run: acts.leave },
    { id: "undo", words: "Undo what you drew", keys: [{ key: "z", ctrl: true, shift: false }], run: acts.undo },
    {
      id: "redo",
      words: "Draw it again",
      keys: [
        { key: "z", ctrl: true, shift: true },
        { key: "y", ctrl: true },
      ],
      run: acts.redo,
    },
    // The browser says what is on the clipboard once it is pasted: a picture from elsewhere, or what was copied here.
    {
      id: "paste",
      words: "Draw what was copied, in the same place, or a picture from the clipboard",
      keys: [{ key: "v", ctrl: true }],
      run: () => undefined,
      isTold: true,
    },
    // Also while what was pressed last has the keys, such as a button of the bar.
    { id: "erase", words: "Erase what is picked", keys: [{ key: "Delete" }], run: acts.erase },
    // The sheet answers to these itself, when it has the keys.
    ...(
      [
        ["move", "Move the sheet, or what is picked", ["ArrowLeft", "ArrowUp", "ArrowRight", "ArrowDown"]],
        ["zoom", "Nearer and farther", ["+", "-"]],
        ["cross", "Set a corner where the cross stands", ["Enter"]],
      ] as const
    ).map(([id, words, keys]) => ({
      id,
      words,
      keys: keys.map((key) => ({ key })),
      run: () => undefined,
      isTold: true,
    })),
  ]);
}
