import { useCommands, type Command } from "../../commands/registry";
import { standing, type Standing } from "../camera/eye";

/** What is done with a model by key; null where it cannot be done now. */
export type SceneActs = {
  look: (to: Standing) => void;
  togglePerspective: () => void;
  lookSquarely: (() => void) | null;
  hide: (() => void) | null;
  isolate: (() => void) | null;
  ghost: (() => void) | null;
  showAll: (() => void) | null;
  cut: () => void;
  partsList: () => void;
  keepMeasure: (() => void) | null;
};

const views: readonly { to: Standing; key: string; shift: boolean }[] = [
  { to: "front", key: "y", shift: false },
  { to: "back", key: "y", shift: true },
  { to: "right", key: "x", shift: false },
  { to: "left", key: "x", shift: true },
  { to: "top", key: "z", shift: false },
  { to: "bottom", key: "z", shift: true },
  { to: "frontRight", key: "o", shift: false },
  { to: "frontLeft", key: "o", shift: true },
];

/** What can be done with a model by key, or from the list of commands. */
export function useSceneCommands(within: string | null, acts: SceneActs) {
  const onModel: readonly Command[] = [
    ...views.map(({ to, key, shift }) => ({
      id: `look-${to}`,
      words: `Look at the model: ${standing[to].words.toLowerCase()}`,
      keys: [{ key, shift }],
      run: () => acts.look(to),
    })),
    {
      id: "look-back-above",
      words: `Look at the model: ${standing.backAbove.words.toLowerCase()}`,
      keys: [],
      run: () => acts.look("backAbove"),
    },
    {
      id: "perspective",
      words: "Perspective, or parallel",
      keys: [{ key: "p", shift: false }],
      run: acts.togglePerspective,
    },
    {
      id: "squarely",
      words: "Look squarely at the face that is picked",
      keys: [{ key: "q", shift: false }],
      run: acts.lookSquarely,
    },
    {
      id: "hide",
      words: "Hide what is picked",
      keys: [{ key: "h", shift: false }],
      run: acts.hide,
    },
    {
      id: "isolate",
      words: "Show only what is picked",
      keys: [{ key: "i", shift: false }],
      run: acts.isolate,
    },
    {
      id: "ghost",
      words: "Show the rest as a ghost",
      keys: [{ key: "g", shift: false }],
      run: acts.ghost,
    },
    {
      id: "show-all",
      words: "Show everything",
      keys: [{ key: "a", shift: true }],
      run: acts.showAll,
    },
    {
      id: "cut",
      words: "Cut the model: at the face that is picked, or through the middle",
      keys: [{ key: "k", shift: false }],
      run: acts.cut,
    },
    {
      id: "keep-measure",
      words: "Keep the measure of what is picked",
      keys: [{ key: "m", shift: false }],
      run: acts.keepMeasure,
    },
    // The model answers to these itself, when it has the keys.
    {
      id: "pick-cross",
      words: "A cross that picks: arrows move it, the same key picks",
      keys: [{ key: " ", shift: false }],
      run: () => undefined,
      isTold: true,
    },
    {
      id: "pick-second",
      words: "Pick a second one at the cross, to measure to",
      keys: [{ key: " ", shift: true }],
      run: () => undefined,
      isTold: true,
    },
    {
      id: "parts-list",
      words: "Parts list of the model",
      keys: [{ key: "k", shift: true }],
      run: acts.partsList,
    },
  ];
  useCommands("Model", within, onModel, "part");
}
