import type { ReactNode } from "react";
import { Link } from "react-router";
import type { DraftName } from "../../api/types";
import { Awaited } from "../../ui/Awaited";
import { tintWords, type TintedGroup, type TintName } from "./tints";
import type { SceneTree } from "./tree";
import type { useTint } from "./useTint";

type Props = {
  tree: SceneTree;
  tint: ReturnType<typeof useTint>;
  /** The pieces that are picked. */
  picked: readonly number[];
  /** Whether some are all that is shown, but for ghosts. */
  isAlone: (components: readonly number[]) => boolean;
  /** Shows some alone; all again where they are. */
  onAlone: (components: readonly number[]) => void;
  /** Picks some as well. */
  onMore: (components: readonly number[]) => void;
  onDocument: ((to: { name: DraftName }) => void) | null;
  /** What else is listed. */
  children: ReactNode;
};

/** The components of a model by what is known of them: tinted, counted, and the documents of their numbers. */
export function DataPanel({ tree, tint, picked, isAlone, onAlone, onMore, onDocument, children }: Props) {
  const { by, groups } = tint;
  const isPicked = new Set(picked);
  const most = Math.max(1, ...groups.map((g) => g.components.length));
  // Of what is picked, else of the whole model.
  const within = new Set(picked.flatMap((c) => tree.pathOf(c)));
  const documents = tint.documents.filter((d) => picked.length === 0 || d.components.some((c) => within.has(c)));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" role="region" aria-label="By data">
      <label className="flex items-center gap-2 text-sm">
        Tint by
        <select
          className="field min-w-0 flex-1"
          value={by ?? ""}
          onChange={(e) => tint.setBy((e.target.value as TintName) || null)}
        >
          <option value="">nothing, its own colours</option>
          {tint.offered.map((name) => (
            <option key={name} value={name}>
              {tintWords[name]}
            </option>
          ))}
        </select>
      </label>
      {by && (
        <ul className="mt-2" aria-label={`Legend: ${tintWords[by]}`}>
          {groups.map((g) => (
            <li key={g.value}>
              <LegendRow
                group={g}
                share={g.components.length / most}
                isPicked={g.components.every((c) => isPicked.has(c)) || isAlone(g.components)}
                onPress={(isMore) => (isMore ? onMore(g.components) : onAlone(g.components))}
              />
            </li>
          ))}
        </ul>
      )}
      {by && (
        <p className="mt-1 text-sm text-soft">
          A press shows one group alone, another all again; with Shift it is picked as well.
        </p>
      )}
      {children}
      <p className="label mt-4">{picked.length > 0 ? "Documents of what is picked" : "Documents of the model"}</p>
      {tint.known.data === undefined ? (
        <Awaited what="what is known of the components" of={tint.known} />
      ) : documents.length === 0 ? (
        <p className="mt-1 text-sm text-soft">
          No document of the register has a number of {picked.length > 0 ? "these components" : "a component"}.
        </p>
      ) : (
        <>
          <ul className="mt-1">
            {documents.map(({ document: { name, standing } }) => (
              <li key={name.document} className="flex items-baseline gap-2 border-t border-rule py-1 text-sm">
                <span className="min-w-0 flex-1">
                  <span className="font-mono">{name.number}</span> {name.title}
                  <span className="block text-soft">
                    {name.label}, {standing}
                  </span>
                </span>
                {onDocument && (
                  <button type="button" className="min-h-6 underline" onClick={() => onDocument({ name })}>
                    Beside
                  </button>
                )}
                <Link to={`/register/${name.document}`} className="min-h-6 underline">
                  Register
                </Link>
              </li>
            ))}
          </ul>
          <Link
            to={`/send?${documents.map((d) => `document=${d.document.name.document}`).join("&")}`}
            className="mt-2 inline-flex min-h-7 items-center border border-edge px-2 text-sm"
          >
            Send {documents.length === 1 ? "it" : `these ${documents.length}`} for review
          </Link>{" "}
          <Link
            to={`/register?among=${documents.map((d) => d.document.name.document).join(",")}`}
            className="mt-2 inline-flex min-h-7 items-center border border-edge px-2 text-sm"
          >
            File {documents.length === 1 ? "it" : "them"}, or more
          </Link>
        </>
      )}
    </div>
  );
}

function LegendRow({
  group,
  share,
  isPicked,
  onPress,
}: {
  group: TintedGroup;
  share: number;
  isPicked: boolean;
  onPress: (isMore: boolean) => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      className={`grid w-full grid-cols-[14px_1fr_auto] items-center gap-x-2 border-t border-rule py-1 text-left text-sm hover:bg-picked ${isPicked ? "bg-picked" : ""}`}
      onClick={(e) => onPress(e.shiftKey)}
    >
      <span className="h-3.5 w-3.5 border border-edge" style={{ background: group.colour }} />
      <span className="min-w-0 break-words">{group.value}</span>
      <span className="font-mono tabular-nums">{group.components.length}</span>
      <span className="col-start-2 col-end-4 mt-0.5 h-1 bg-rule" aria-hidden="true">
        <span className="block h-1" style={{ width: `${share * 100}%`, background: group.colour }} />
      </span>
    </button>
  );
}
