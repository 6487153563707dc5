import { Button, Fault, Tick } from "../../ui/kit";
import { exactly } from "../../ui/time";
import type { SceneTree } from "./tree";
import type { Stated, useStated } from "./useStated";

type Props = { tree: SceneTree; stated: ReturnType<typeof useStated>; onPick: (stated: Stated) => void };

/** The dimensions, tolerances and datums that a model states, each shown on it or not. */
export function StatedList({ tree, stated, onPick }: Props) {
  const { all } = stated;
  if (all.length === 0) return <p className="mt-1 text-sm text-soft">The file states none that lead to a part.</p>;
  return (
    <>
      <Tick
        words="all on the model"
        on={all.every((d) => stated.isShown(d.index))}
        set={(isOn) =>
          stated.show(
            all.map((d) => d.index),
            isOn,
          )
        }
      />
      <Chosen stated={stated} />
      <ul className="mt-1" aria-label="Dimensions of the model">
        {all.map((d) => (
          <li key={d.index} className="flex items-start gap-2 border-t border-rule py-1 text-sm">
            <input
              type="checkbox"
              aria-label={`Show ${d.words} on the model`}
              className="mt-1 h-4 w-4 shrink-0 accent-spruce"
              checked={stated.isShown(d.index)}
              onChange={(e) => stated.show([d.index], e.target.checked)}
            />
            <button type="button" className="min-w-0 flex-1 text-left hover:bg-picked" onClick={() => onPick(d)}>
              <span className="font-mono break-words">{d.words}</span>
              <span className="block break-words text-soft">
                {[d.name, tree.wordsOf(d.component), d.drawn ? "drawn" : ""].filter(Boolean).join(", ")}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What is shown when the model is opened in a package: whoever sends it chooses, before it is sent. */
function Chosen({ stated }: Pick<Props, "stated">) {
  const { all, isShown, chosen } = stated;
  const { data, choosing } = chosen;
  if (!data || (!data.mayChoose && data.shown === null)) return null;
  const shown = all.filter((d) => isShown(d.index)).map((d) => d.index);
  const isAsChosen = shown.join(" ") === (data.shown ?? []).join(" ");
  const count = (n: number) => (n === 0 ? "none" : n === all.length ? "all" : `${n} of ${all.length}`);
  return (
    <div className="my-1 border-l-2 border-edge pl-2 text-sm">
      <p>
        {`Shown when a package with it is opened: ${count(data.shown?.length ?? 0)}.`}
        {data.by && <span className="text-soft">{` Chosen by ${data.by}, ${exactly(data.at!)}.`}</span>}
      </p>
      {data.mayChoose && !isAsChosen && (
        <Button disabled={choosing.isBusy} onClick={() => void choosing.run(shown)}>
          {`Show ${shown.length === 0 ? "none of them" : shown.length === all.length ? "all of them" : "these"} in packages`}
        </Button>
      )}
      {choosing.fault && <Fault>{choosing.fault}</Fault>}
    </div>
  );
}
