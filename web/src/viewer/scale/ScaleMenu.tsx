import { useQueryClient } from "@tanstack/react-query";
import { Ruler } from "lucide-react";
import { Popover } from "radix-ui";
import { useState, type ReactNode } from "react";
import { api } from "../../api/client";
import { useAct } from "../../api/useAct";
import type { SheetLeaf } from "../../api/types";
import { lengthWords } from "../measure";
import { Button, Fault } from "../../ui/kit";
import { exactly } from "../../ui/time";
import { unlessGoneOn } from "../../ui/unlessGoneOn";
import { lengthOf, scaleWords, type Scale } from "./scale";
import type { Scaling } from "./useScaling";

type Given = NonNullable<Scale["given"]>;
type Unit = NonNullable<Given["unit"]>;

const units: readonly [Unit, string][] = [
  ["millimetre", "mm"],
  ["centimetre", "cm"],
  ["metre", "m"],
  ["inch", "in"],
  ["foot", "ft"],
];

type Props = {
  draft: string;
  leaf: SheetLeaf;
  /** Drawing between two points; null where that cannot be done. */
  scaling: Scaling | null;
  /** What else belongs to measuring. */
  children?: ReactNode;
};

/** What scale a sheet has and who says so; and giving it one. */
export function ScaleMenu({ draft, leaf, scaling, children }: Props) {
  const queries = useQueryClient();
  const [isOpen, setIsOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const [unit, setUnit] = useState<Unit>("metre");
  const { scales, namedScales, maySetScale } = leaf;
  const given = scales.find((s) => s.given);
  const length = lengthOf(typed);
  const measured = scaling?.measured ?? null;

  const close = () => {
    setIsOpen(false);
    setting.forget();
    scaling?.done();
  };
  const setting = useAct(async (key, scale: Given | null) => {
    await api.put(`/drafts/${draft}/leaves/${leaf.position}/scale`, { key, scale });
    setTyped("");
    await queries.invalidateQueries({ queryKey: ["sheets", draft] });
    scaling?.done();
  });
  const { isBusy, fault } = setting;
  const set = (scale: Given | null) => setting.run(scale);

  return (
    <Popover.Root open={isOpen || measured !== null} onOpenChange={(open) => (open ? setIsOpen(true) : close())}>
      <Popover.Trigger
        data-on-sheet
        className={`flex min-h-6 items-center gap-1.5 rounded-[3px] border px-2 text-xs font-medium ${scales.length > 0 ? "border-rule bg-raised" : "border-ochre bg-raised text-ochre"}`}
      >
        <Ruler size={13} strokeWidth={1.6} /> {scaleWords(scales, leaf.frame.unit)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          data-on-sheet
          align="end"
          side="top"
          sideOffset={6}
          aria-label="Scale"
          onCloseAutoFocus={unlessGoneOn}
          className="z-50 flex w-80 flex-col gap-2 rounded-md border border-rule bg-raised p-3 shadow-lg"
        >
          <Said scales={scales} unit={leaf.frame.unit} />
          {leaf.frame.fineness && (
            <p className="text-soft">
              What the file tells apart is {lengthWords(leaf.frame.fineness, null, leaf.frame.unit)}; by so much a
              length may be off.
            </p>
          )}
          {given?.by && (
            <p>
              {how(given.given!)}, given by {given.by}, {exactly(given.at!)}.
            </p>
          )}
          {maySetScale && measured && (
            <form
              className="flex flex-col gap-2 border-t border-rule pt-2"
              onSubmit={(e) => {
                e.preventDefault();
                if (length !== null) void set({ from: measured.from, to: measured.to, length, unit });
              }}
            >
              <label className="label" htmlFor="scale-length">
                These two points are apart
              </label>
              <div className="flex gap-2">
                <input
                  id="scale-length"
                  className="field"
                  style={{ width: 110 }}
                  inputMode="decimal"
                  autoComplete="off"
                  maxLength={20}
                  autoFocus
                  value={typed}
                  onChange={(e) => setTyped(e.target.value)}
                />
                <select
                  aria-label="Counted in"
                  className="field"
                  style={{ width: 70 }}
                  value={unit}
                  onChange={(e) => setUnit(e.target.value as Unit)}
                >
                  {units.map(([name, short]) => (
                    <option key={name} value={name}>
                      {short}
                    </option>
                  ))}
                </select>
                <Button type="submit" look="main" disabled={length === null || isBusy}>
                  Set scale
                </Button>
              </div>
              {typed !== "" && length === null && <p className="text-rust">Write a number, such as 3.25.</p>}
            </form>
          )}
          {maySetScale && !measured && (
            <>
              {namedScales.map(({ ratio, line }) => (
                <div key={ratio} className="flex items-center gap-2 border-t border-rule pt-2">
                  <span className="min-w-0 flex-1 text-soft">
                    The sheet says <q className="text-ink">{line}</q>
                  </span>
                  <Button disabled={isBusy} onClick={() => void set({ ratio })}>
                    Use it
                  </Button>
                </div>
              ))}
              <div className="flex gap-3 border-t border-rule pt-2">
                {scaling && (
                  <button
                    type="button"
                    className="underline"
                    onClick={() => {
                      close();
                      scaling.start();
                    }}
                  >
                    Set it by two points …
                  </button>
                )}
                {given && (
                  <button type="button" className="underline" disabled={isBusy} onClick={() => void set(null)}>
                    Take back
                  </button>
                )}
              </div>
            </>
          )}
          {fault && <Fault>{fault}</Fault>}
          {!measured && children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What holds, in words. */
function Said({ scales, unit }: { scales: readonly Scale[]; unit: string }) {
  if (scales.length === 0)
    return (
      <p>
        {unit === "unknown"
          ? "The file does not say how large this sheet is. "
          : "The file does not say how large things are on this sheet. "}
        Nothing can be measured on it until somebody does.
      </p>
    );
  const [first] = scales;
  if (scales.length === 1 && !first!.area)
    return (
      <p>
        <b className="font-semibold">{first!.words}</b>
        {!first!.given && (first!.words === "1:1" ? " by the file: drawn as large as it is." : " by the file.")}
      </p>
    );
  return (
    <p>
      {scales.length} {scales.length === 1 ? "part" : "parts"} of this sheet{" "}
      {scales.length === 1 ? "has a scale" : "have scales"} by the file:{" "}
      <b className="font-semibold">{[...new Set(scales.map((s) => s.words))].join(", ")}</b>. Point at one to see its
      own.
    </p>
  );
}

const how = ({ ratio, length, unit }: Given) =>
  ratio !== undefined && ratio !== null
    ? "As the sheet says"
    : `By two points ${length} ${units.find(([name]) => name === unit)?.[1] ?? unit} apart`;
