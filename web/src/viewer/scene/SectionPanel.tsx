import { Eye, EyeOff, X } from "lucide-react";
import { useEffect, useState } from "react";
import { SignButton } from "../../ui/SignButton";
import { areaWords } from "./exact";
import type { V3 } from "../camera/eye";
import { acrossWords, axisOf, rangeOf, type AcrossAxis, type SectionPlane } from "./sections";
import type { SceneTree } from "./tree";
import type { Sections } from "./useSections";

type Props = {
  sections: Sections;
  tree: SceneTree;
  box: readonly number[];
  unit: string;
  /** The plane of the face that is picked; null where none is, or it is not flat. */
  face: { along: V3; at: number } | null;
  onFlat: (section: SectionPlane) => void;
  onPick: (component: number) => void;
  /** Whether the model is taken apart, so that it cannot be cut. */
  isApart: boolean;
};

const ROWS = 60;
const press = "min-h-7 rounded-[5px] border border-edge px-2 text-sm hover:bg-picked disabled:opacity-40";

/** A number that is typed: it holds once it is one, on Enter or on leaving. */
function NumberField(p: {
  words: string;
  value: number | null;
  unit: string;
  empty?: string;
  onSet: (v: number | null) => void;
}) {
  const shown = p.value === null ? "" : String(Math.round(p.value * 1000) / 1000);
  const [typed, setTyped] = useState(shown);
  useEffect(() => setTyped(shown), [shown]);
  const take = () => {
    const value = Number(typed.trim().replace(",", "."));
    if (typed.trim() === "" && p.empty !== undefined) p.onSet(null);
    else if (typed.trim() !== "" && Number.isFinite(value)) p.onSet(value);
    else setTyped(shown);
  };
  return (
    <label className="flex items-center justify-between gap-2 text-sm whitespace-nowrap">
      {p.words}
      <span className="flex items-center gap-1">
        <input
          inputMode="decimal"
          maxLength={20}
          placeholder={p.empty}
          className="field max-w-28 py-1 text-right font-mono"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => {
            if (e.key === "Enter") take();
          }}
        />
        <span className="w-6 text-soft">{p.unit}</span>
      </span>
    </label>
  );
}

/** The sections of a model: which there are, and where the chosen one stands. */
export function SectionPanel({ sections, tree, box, unit, face, onFlat, onPick, isApart }: Props) {
  const { all, chosen, points } = sections;
  const range = chosen && rangeOf(chosen.along, box);
  // Across an axis it stands at a coordinate, whichever way it points.
  const across = chosen && axisOf(chosen.along);
  const sign = across?.sign ?? 1;
  const faces = sections.cut?.faces ?? [];
  const isWhole = faces.every((f) => f.area !== null);
  const sum = faces.reduce((total, f) => total + (f.area ?? 0), 0);
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto" aria-label="Sections" role="region">
      <div className="flex flex-wrap gap-1" role="group" aria-label="Cut">
        {(["x", "y", "z"] as const).map((axis, k) => (
          <button
            key={axis}
            type="button"
            className={press}
            disabled={sections.isFull}
            onClick={() => sections.addAcross(k as AcrossAxis)}
          >
            Across {axis}
          </button>
        ))}
        <button
          type="button"
          className={press}
          disabled={!face || sections.isFull}
          onClick={() => face && sections.add(face)}
        >
          At the face
        </button>
        <button
          type="button"
          aria-pressed={points !== null}
          disabled={sections.isFull}
          className={`${press} ${points ? "bg-picked" : ""}`}
          onClick={() => sections.wantPoints(points === null)}
        >
          Three points
        </button>
      </div>
      {all.length === 0 && (
        <p className="mt-2 text-sm text-soft">
          Nothing is cut. A plane goes through the middle first; “At the face” takes the flat face that is picked.
        </p>
      )}
      {sections.isFull && <p className="mt-2 text-sm">That is as many as can be kept. Delete one for another.</p>}
      {isApart && all.length > 0 && <p className="mt-2 text-sm text-ochre">A model that is taken apart is not cut.</p>}
      <ul className="mt-2" aria-label="Planes">
        {all.map((s) => (
          <li
            key={s.id}
            className={`flex min-h-7 items-center border-b border-rule ${s === chosen ? "bg-picked" : ""}`}
          >
            <SignButton
              words={`${s.isOn ? "Leave out" : "Cut by"} ${s.name}`}
              onClick={() => sections.change(s.id, { isOn: !s.isOn })}
            >
              {s.isOn ? <Eye size={14} /> : <EyeOff size={14} />}
            </SignButton>
            <button
              type="button"
              aria-pressed={s === chosen}
              className={`min-w-0 flex-1 truncate text-left ${s.isOn ? "" : "text-soft line-through"}`}
              onClick={() => sections.choose(s.id)}
            >
              <span className="font-semibold">{s.name}</span>{" "}
              <span className="text-sm text-soft">{acrossWords(s.along)}</span>
            </button>
            <SignButton words={`Delete ${s.name}`} onClick={() => sections.remove(s.id)}>
              <X size={14} />
            </SignButton>
          </li>
        ))}
      </ul>
      {chosen && range && (
        <div className="mt-2 flex flex-col gap-1">
          <label className="flex items-center justify-between gap-2 text-sm">
            Name
            <input
              maxLength={40}
              className="field max-w-36 py-1"
              value={chosen.name}
              onChange={(e) => sections.change(chosen.id, { name: e.target.value })}
            />
          </label>
          <input
            type="range"
            aria-label={`Where ${chosen.name} stands`}
            aria-valuetext={`${Math.round(sign * chosen.at * 1000) / 1000} ${unit}`}
            className="w-full accent-spruce"
            min={range[0]}
            max={range[1]}
            step={(range[1] - range[0]) / 400 || 1}
            value={chosen.at}
            onChange={(e) => sections.change(chosen.id, { at: Number(e.target.value) })}
          />
          <NumberField
            words={across ? `Stands at ${"xyz"[across.axis]!}` : "Stands at"}
            value={sign * chosen.at + 0}
            unit={unit}
            onSet={(at) => at !== null && sections.change(chosen.id, { at: sign * at })}
          />
          <NumberField
            words="Slice of"
            value={chosen.thickness}
            unit={unit}
            empty="all"
            onSet={(t) => (t === null || t > 0) && sections.change(chosen.id, { thickness: t })}
          />
          <div className="flex flex-wrap gap-1">
            <button type="button" className={press} onClick={() => sections.flip(chosen.id)}>
              Other side
            </button>
            <button type="button" className={press} onClick={() => onFlat(chosen)}>
              See it flat
            </button>
            <button
              type="button"
              aria-pressed={sections.isVeiled}
              className={`${press} ${sections.isVeiled ? "bg-picked" : ""}`}
              onClick={() => sections.setVeiled(!sections.isVeiled)}
            >
              Rest as ghost
            </button>
          </div>
          {sections.fault ? (
            <p role="alert" className="text-sm text-rust">
              {sections.fault}
            </p>
          ) : (
            <div role="status" className="text-sm">
              {!chosen.isOn ? "" : !sections.cut ? "Filling …" : faces.length === 0 ? "It meets nothing here." : null}
              {faces.length > 0 && (
                <table className="w-full">
                  <caption className="label text-left">Cut areas</caption>
                  <tbody>
                    {faces.slice(0, ROWS).map((f) => (
                      <tr key={f.component} className="border-b border-rule">
                        <th scope="row" className="font-normal">
                          <button
                            type="button"
                            className="w-full truncate text-left hover:underline"
                            onClick={() => onPick(f.component)}
                          >
                            {tree.wordsOf(f.component)}
                          </button>
                        </th>
                        <td className="text-right font-mono whitespace-nowrap">
                          {f.area === null ? "has a gap" : areaWords(f.area, unit)}
                        </td>
                      </tr>
                    ))}
                    {faces.length > ROWS && (
                      <tr>
                        <td colSpan={2}>and {faces.length - ROWS} more</td>
                      </tr>
                    )}
                    <tr>
                      <th scope="row" className="text-left">
                        All
                      </th>
                      <td className="text-right font-mono font-semibold whitespace-nowrap">
                        {isWhole ? areaWords(sum, unit) : "not told"}
                      </td>
                    </tr>
                  </tbody>
                </table>
              )}
              {faces.length > 0 && <p className="text-right text-soft">from the mesh</p>}
            </div>
          )}
        </div>
      )}
    </div>
  );
}

/** Says that points are wanted for a plane. */
export const ThreePoints = ({ count }: { count: number }) => (
  <p
    role="status"
    className="absolute top-3 left-1/2 z-20 -translate-x-1/2 border border-rule bg-raised px-3 py-1 whitespace-nowrap"
  >
    Press three points of the model · {count} of 3
  </p>
);
