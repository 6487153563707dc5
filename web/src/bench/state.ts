import type { NoteMark, NoteRow, PackageItem, Point, Shape } from "../api/types";
import { reachOf } from "../viewer/shapes";
import type { SceneLook } from "../viewer/scene/sceneProps";
import type { ToolName } from "./useHand";

/** Where to look: a new one each time, so that the same place is gone to again. */
export type LookAt = { document: string; leaf: number; points: readonly Point[]; scene?: SceneLook | null };

/** Where to go on a model for what stands in space. */
const sceneOf = (draft: string, shape: Shape): SceneLook | null =>
  shape.shape === "pin"
    ? { draft, eye: shape.eye, spot: shape }
    : shape.shape === "modelMeasure"
      ? { draft, eye: shape.eye, spot: shape.of[0] ?? null }
      : shape.shape === "onView"
        ? { draft, eye: shape.eye, spot: null }
        : null;

export const lookAt = (m: Pick<NoteMark, "document" | "draft" | "place" | "shape">): LookAt => ({
  document: m.document,
  leaf: m.place.leaf,
  points: reachOf(m.shape),
  scene: sceneOf(m.draft, m.shape),
});

/** What lies on the bench besides the package: what the hand holds, what is picked, hidden and being written. */
export type BenchState = {
  tool: ToolName;
  pickedNote: string | null;
  pickedMark: string | null;
  /** Markups that are picked besides. */
  others: readonly string[];
  lookAt: LookAt | null;
  /** Overlays that are not shown. */
  hidden: ReadonlySet<string>;
  /** The note that gets another place by what is drawn next. */
  placing: string | null;
  /** One's own overlay that is drawn on, where one has chosen. */
  drawnOn: string | null;
  /** Whether the note or the words that were begun wait out of sight. */
  isFolded: boolean;
  /** Something that the last key could not do, in words; null when all is well. */
  says: string | null;
};

export type BenchAct =
  | { does: "open item" }
  | { does: "take tool"; tool: ToolName }
  | { does: "leave" }
  | { does: "pick mark"; mark: string | null; note: string | null; others?: readonly string[] }
  | { does: "go to note"; note: NoteRow; mark: NoteMark | null }
  | { does: "look at"; at: LookAt }
  | { does: "drew"; overlay: string | null; keepsTool?: boolean }
  | { does: "place note"; note: string }
  | { does: "placed" }
  | { does: "hide"; hidden: ReadonlySet<string> }
  | { does: "draw on"; overlay: string }
  | { does: "fold"; isFolded: boolean }
  | { does: "say"; words: string | null };

/** The bench as a package is opened, at a note or a markup where one is asked for. */
export function opened({ note, marked }: { note?: NoteRow; marked?: PackageItem }): BenchState {
  const first = marked?.marked;
  return {
    tool: "look",
    pickedNote: note?.id ?? null,
    pickedMark: first?.id ?? null,
    others: [],
    lookAt: note?.marks[0]
      ? lookAt(note.marks[0])
      : marked && first
        ? lookAt({ document: marked.document, draft: marked.draft, place: first.place, shape: first.shape })
        : null,
    hidden: new Set(),
    placing: null,
    drawnOn: null,
    isFolded: false,
    says: null,
  };
}

/** What is hidden so that some overlays of all are seen alone; asked for again, nothing is. */
export function alone(
  all: readonly string[],
  seen: readonly string[],
  hidden: ReadonlySet<string>,
): ReadonlySet<string> {
  const others = all.filter((id) => !seen.includes(id));
  const isSo = others.every((id) => hidden.has(id)) && seen.every((id) => !hidden.has(id));
  return new Set(isSo ? [] : others);
}

/** What becomes of the bench by an act; pure, so that tests work at it as a person does. */
export function after(state: BenchState, act: BenchAct): BenchState {
  switch (act.does) {
    case "open item":
      return { ...state, lookAt: null, pickedMark: null, others: [], isFolded: false, says: null };
    case "take tool":
      return { ...state, tool: act.tool, says: null };
    case "leave":
      return { ...state, tool: "look", placing: null, pickedMark: null, others: [], says: null };
    case "pick mark":
      return { ...state, pickedMark: act.mark, others: act.others ?? [], pickedNote: act.note ?? state.pickedNote };
    case "go to note":
      return {
        ...state,
        pickedNote: act.note.id,
        pickedMark: act.mark?.id ?? null,
        others: [],
        lookAt: act.mark ? lookAt(act.mark) : state.lookAt,
      };
    case "look at":
      return { ...state, lookAt: act.at };
    case "drew":
      // What is drawn is to be seen.
      return {
        ...state,
        tool: act.keepsTool ? state.tool : "look",
        hidden: new Set([...state.hidden].filter((h) => h !== act.overlay)),
      };
    case "place note":
      return { ...state, placing: act.note };
    case "placed":
      return { ...state, placing: null, tool: "look" };
    case "hide":
      return { ...state, hidden: act.hidden };
    case "draw on":
      return { ...state, drawnOn: act.overlay };
    case "fold":
      return { ...state, isFolded: act.isFolded };
    case "say":
      return { ...state, says: act.words };
  }
}
