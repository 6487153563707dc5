import { useEffect, useMemo, useRef, useState } from "react";
import { addressOf } from "../../api/client";
import { download } from "../../api/download";
import type { Point } from "../../api/types";
import { useAct } from "../../api/useAct";
import { Button, Fault } from "../../ui/kit";
import { LoadedSheet } from "../LoadedSheet";
import { idle, type Hand, type Place, type SheetHandle } from "../sheet";
import { Snapping } from "../snap/snap";
import { readSource } from "../snap/source";
import { fetchFile } from "../surface/fetchFile";
import { drawTexts } from "../surface/lettering";
import { readPreparedSheet } from "../surface/preparedSheet";
import { StrokePainter } from "../surface/strokePainter";
import type { Surface } from "../surface/surface";
import { degreesWords, lengthWords } from "./exact";
import { askedOf, type SectionPlane } from "./sections";

type Props = {
  draft: string;
  position: number;
  section: SectionPlane;
  without: string;
  unit: string;
  onClose: () => void;
};
type Ready = { sheet: Surface; catchAt: (p: Point, unit: number, from: Point | null) => Point };
type Measured = { from: Point; to: Point };

const angleOf = ({ from, to }: Measured) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;

/** A section laid flat, measured like a drawing: two presses measure between what they catch. */
export function FlatSection({ draft, position, section, without, unit, onClose }: Props) {
  const [ready, setReady] = useState<Ready | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [measured, setMeasured] = useState<readonly Measured[]>([]);
  const [from, setFrom] = useState<Point | null>(null);
  const [near, setNear] = useState<Point | null>(null);
  const handle = useRef<SheetHandle>(null);
  const of = `/api/drafts/${draft}/leaves/${position}/section`;
  const asked = useMemo(() => askedOf(section, without), [section, without]);
  useEffect(() => {
    const stop = new AbortController();
    const get = (form: string) => fetchFile(addressOf(`${of}/${form}`, asked), () => undefined, stop.signal);
    Promise.all([get("geometry"), get("details")])
      .then(([geometry, details]) => {
        const sheet = readPreparedSheet(geometry);
        const source = readSource(geometry, details);
        const snapping = new Snapping(source);
        const [ox, oy] = source.origin;
        const off = (p: Point): Point => ({ x: p.x - ox, y: p.y - oy });
        setReady({
          sheet: {
            ...sheet,
            painter: (canvas) => new StrokePainter(canvas, sheet),
            letter: (canvas, on, view, width, height, ratio) =>
              drawTexts(canvas, sheet, on, view, width, height, ratio),
          },
          catchAt: (p, size, start) => {
            const caught = snapping.at(off(p), size, start && off(start), () => true)[0];
            return caught ? { x: caught.at.x + ox, y: caught.at.y + oy } : p;
          },
        });
      })
      .catch((e: Error) => {
        if (!stop.signal.aborted) setFault(e.message.replace("The sheet", "The section"));
      });
    return () => stop.abort();
  }, [of, asked]);
  const file = useAct(async (_key, form: "svg" | "dxf") => {
    await download(addressOf(`${of}.${form}`, asked));
  });
  const take = (p: Point) => {
    if (from) setMeasured((was) => [...was, { from, to: p }]);
    setFrom(from ? null : p);
  };
  const hand: Hand = ready
    ? {
        ...idle,
        isDrawing: true,
        press: ({ at, unit: size }) => {
          take(ready.catchAt(at, size, from));
          return true;
        },
        glide: ({ at, unit: size }) => setNear(ready.catchAt(at, size, from)),
        hover: ({ at, unit: size }) => setNear(ready.catchAt(at, size, from)),
        place: ({ at, unit: size }) => {
          take(ready.catchAt(at, size, from));
          return from === null;
        },
        cancel: () => setFrom(null),
      }
    : idle;
  const said = (m: Measured) => lengthWords(Math.hypot(m.to.x - m.from.x, m.to.y - m.from.y), unit);
  const drawn = (place: Place) => {
    const line = (m: Measured, key: number | string, isWaiting = false) => {
      const [a, b] = [place(m.from), place(m.to)];
      return (
        <g key={key} className="text-rust">
          <line
            x1={a.x}
            y1={a.y}
            x2={b.x}
            y2={b.y}
            stroke="currentColor"
            strokeWidth={1.5}
            strokeDasharray={isWaiting ? "5 4" : undefined}
          />
          <circle cx={a.x} cy={a.y} r={3} className="fill-current" />
          <circle cx={b.x} cy={b.y} r={3} className="fill-current" />
          <text
            x={(a.x + b.x) / 2 + 8}
            y={(a.y + b.y) / 2 - 8}
            className="fill-current font-mono text-sm font-semibold [paint-order:stroke] [stroke-width:4px] [stroke:var(--color-paper)]"
          >
            {said(m)}
          </text>
        </g>
      );
    };
    const at = near && place(near);
    return (
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
        {measured.map((m, i) => line(m, i))}
        {from && near && line({ from, to: near }, "now", true)}
        {at && <circle cx={at.x} cy={at.y} r={6} className="fill-none stroke-rust" strokeWidth={2} />}
      </svg>
    );
  };
  const last = measured[measured.length - 1];
  return (
    <section
      aria-label={`Section ${section.name}, flat`}
      className="absolute inset-0 z-30 flex flex-col bg-table"
      onKeyDown={(e) => {
        if (e.key !== "Escape" || e.defaultPrevented) return;
        e.preventDefault();
        e.stopPropagation();
        if (from) setFrom(null);
        else onClose();
      }}
    >
      <div className="border-b border-rule bg-ground px-3 py-1.5">
        <div className="flex flex-wrap items-center gap-2">
          <h2 className="flex-1 font-semibold">{section.name}</h2>
          {measured.length > 0 && <Button onClick={() => setMeasured([])}>Clear</Button>}
          <Button disabled={file.isBusy} onClick={() => void file.run("svg")}>
            SVG
          </Button>
          <Button disabled={file.isBusy} onClick={() => void file.run("dxf")}>
            DXF
          </Button>
          <Button autoFocus onClick={onClose}>
            Back to the model
          </Button>
        </div>
        <p role="status" className="mt-1 text-sm text-soft">
          {last
            ? `${said(last)} · x ${lengthWords(last.to.x - last.from.x, "")}, y ${lengthWords(last.to.y - last.from.y, "")} · ${degreesWords(angleOf(last))} · on the mesh`
            : "Press two points to measure between them."}
        </p>
      </div>
      {file.fault && <Fault>{file.fault}</Fault>}
      <div className="relative min-h-0 flex-1">
        {fault ? (
          <p role="alert" className="p-6 text-center">
            {fault}
          </p>
        ) : ready ? (
          <LoadedSheet
            isBare
            isSecond
            draft={`${draft}/${section.id}`}
            position={position}
            leaf={undefined}
            sheet={ready.sheet}
            hand={hand}
            layersOn={null}
            onLayers={() => undefined}
            overlay={(place) => drawn(place)}
            handle={handle}
            grid={null}
            scales={[]}
            under={() => null}
            restSeconds={null}
            onRest={() => undefined}
            onAgain={() => undefined}
          />
        ) : (
          <p role="status" className="p-6 text-center text-soft">
            Laying it flat …
          </p>
        )}
      </div>
    </section>
  );
}
