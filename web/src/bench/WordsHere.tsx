import type { Shape } from "../api/types";
import type { Place } from "../viewer/sheet";
import type { BenchNow } from "./useBench";
import { WordsEditor } from "./WordsEditor";
import { focusSheet } from "../viewer/focusSheet";

type Props = {
  b: BenchNow;
  place: Place;
  /** The markup as it is seen now; left out where it lies as it is. */
  seen?: Shape;
};

/** The words that are being written on what is open; nothing where none are. */
export function WordsHere({ b, place, seen }: Props) {
  const { writing, isWritten, stamps, type, done, discard } = b.writing;
  if (!writing || !b.canDraw || b.state.isFolded) return null;
  return (
    <WordsEditor
      key={writing.id}
      writing={seen ? { ...writing, shape: seen } : writing}
      place={place}
      stamps={stamps}
      onChange={type}
      onDone={() => {
        done();
        focusSheet();
      }}
      onDiscard={() => {
        discard();
        focusSheet();
      }}
      onLeave={() => {
        if (isWritten) b.act({ does: "fold", isFolded: true });
        else discard();
        focusSheet();
      }}
    />
  );
}
