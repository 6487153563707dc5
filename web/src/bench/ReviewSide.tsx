import { newKey } from "../api/key";
import { begin } from "../notes/begun";
import { NoteComposer } from "../notes/NoteComposer";
import { NotesPanel } from "../notes/NotesPanel";
import { useMe } from "../session/me";
import { Advice } from "./Advice";
import { AnswerBar } from "./AnswerBar";
import { FileMarks } from "./FileMarks";
import { NotedBar } from "./NotedBar";
import { Release } from "./Release";
import { ReviewHead } from "./ReviewHead";
import type { BenchNow } from "./useBench";
import { VerdictBar } from "./VerdictBar";

/** The side's room and ground. */
export const SIDE =
  "flex w-[330px] shrink-0 flex-col overflow-y-auto border-l border-rule bg-raised max-[900px]:w-full max-[900px]:border-t max-[900px]:border-l-0";

/** What is asked, what was noted, and what one says to it. */
export function ReviewSide({ b }: { b: BenchNow }) {
  const me = useMe();
  const { p, item, draft, position, state, act, begun, mine } = b;
  const cornersOf = ({ minX, minY, maxX, maxY }: { minX: number; minY: number; maxX: number; maxY: number }) =>
    [
      { x: minX, y: minY },
      { x: maxX, y: maxY },
    ] as const;
  return (
    <aside aria-label="Review" className={SIDE}>
      {/* Where much was noted, the notes have at least half of the side. */}
      <ReviewHead p={p} item={item} isTight={b.notes.length > 5} />
      <NotesPanel
        p={p}
        draft={draft}
        notes={b.notes}
        listed={b.listed}
        sift={b.sift}
        setSift={b.setSift}
        overlays={b.overlays}
        onMove={(marks, overlay) => b.marking.move(marks, overlay)}
        how={
          b.table
            ? "Pick cells of the table and say what they are about (Enter)."
            : b.scene
              ? "Press a spot of the model and say what it is about (Enter)."
              : "Draw a cloud (C) or an arrow (A) on the sheet and say what it is about."
        }
        picked={state.pickedNote}
        onPick={b.goTo}
        onPlace={b.canDraw ? b.placeNote : null}
        below={
          <FileMarks
            marks={b.fileMarks}
            onGo={({ box }) =>
              act({ does: "look at", at: { document: item.document, leaf: position, points: cornersOf(box) } })
            }
            onAnswer={
              b.canDraw
                ? ({ box }) => {
                    const [from, to] = cornersOf(box);
                    b.beginNote({
                      ...{ id: newKey(), overlay: b.drawnOn, leaf: position },
                      shape: { shape: "cloud", from, to },
                    });
                  }
                : null
            }
          />
        }
        composer={
          p.may.write &&
          draft === item.draft &&
          (begun.value && !begun.value.mark && !state.isFolded ? (
            <NoteComposer
              key={begun.value.key}
              p={p}
              draft={item.draft}
              begun={begun.value}
              onChange={begun.set}
              where={null}
              canRequest={p.may.request}
              onKeep={null}
              onFold={() => act({ does: "fold", isFolded: true })}
              onDone={begun.discard}
            />
          ) : (
            !begun.value && (
              <button type="button" className="min-h-6 underline" onClick={() => begun.set(begin(null))}>
                Write a note about the whole
              </button>
            )
          ))
        }
      />
      <Advice p={p} canAsk={p.may.askAdvice} />
      {mine && (
        <VerdictBar
          p={p}
          item={item}
          seat={mine.seat}
          absent={mine.for === me.id ? null : mine.for}
          choices={b.verdicts.value}
          setChoices={b.verdicts.set}
          isSigning={b.isSigning}
          setSigning={b.setSigning}
          onNext={() => b.open((b.index + 1) % p.items.length)}
          onSigned={b.verdicts.discard}
        />
      )}
      {p.may.sendAgain && <AnswerBar p={p} onGo={b.goTo} />}
      {(p.isHeld || p.may.answerNoted) && <NotedBar p={p} canAnswer={p.may.answerNoted} />}
      {p.standing === "released" && <Release p={p} />}
    </aside>
  );
}
