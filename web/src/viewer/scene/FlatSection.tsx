import { useEffect, useMemo, useRef, useState } from "react";
import { steadily } from "../../api/again";
import { addressOf, api } from "../../api/client";
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
import type { V3 } from "../camera/eye";
import { degreesWords, lengthWords } from "./exact";
import { FlatMeasures, type FlatWay } from "./FlatMeasures";
import { inSpace, onFlat, type FlatAxes } from "./flatPlane";
import { askedOf, type SectionPlane } from "./sections";

type Props = {
  draft: string;
  position: number;
  section: SectionPlane;
  without: string;
  unit: string;
  /** The model's diagonal, and what is kept of its measures. */
  diagonal: number;
  kept: readonly { ends: readonly [V3, V3]; words: string }[];
  /** Keeps a measure between two points of the model; null where nothing can be kept. */
  onKeep: ((from: V3, to: V3) => void) | null;
  onClose: () => void;
};
type Ready = { axes: FlatAxes; sheet: Surface; catchAt: (p: Point, unit: number, from: Point | null) => Point };
type Measured = { from: Point; to: Point };

const angleOf = ({ from, to }: Measured) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;

/** A section laid flat, measured like a drawing: two presses measure between what they catch. */
export function FlatSection({ draft, position, section, without, unit, diagonal, kept, onKeep, onClose }: Props) {
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
    const axes = steadily(() => api.get(`/drafts/${draft}/leaves/${position}/section`, asked), stop.signal);
    Promise.all([get("geometry"), get("details"), axes])
      .then(([geometry, details, cut]) => {
        const sheet = readPreparedSheet(geometry);
        const source = readSource(geometry, details);
        const snapping = new Snapping(source);
        const [ox, oy] = source.origin;
        const off = (p: Point): Point => ({ x: p.x - ox, y: p.y - oy });
        setReady({
          axes: cut,
          sheet: {
            ...sheet,
            painter: (canvas, onFault) => new StrokePainter(canvas, sheet, onFault),
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
  }, [of, asked, draft, position]);
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
  const ways: FlatWay[] = measured.map((m) => ({ ...m, words: said(m), isKept: false }));
  for (const { ends, words } of ready ? kept : []) {
    const [from, to] = ends.map((p) => onFlat(section, ready!.axes, p, diagonal));
    if (from && to) ways.unshift({ from, to, words, isKept: true });
  }
  const waiting = from && near ? { from, to: near, words: said({ from, to: near }), isKept: false } : null;
  const drawn = (place: Place) => <FlatMeasures {...{ ways, waiting, near, place }} />;
  const last = measured[measured.length - 1];
  const keep =
    onKeep && ready && last
      ? () => {
          onKeep(inSpace(section, ready.axes, last.from), inSpace(section, ready.axes, last.to));
          setMeasured((was) => was.filter((m) => m !== last));
        }
      : null;
  return (
    <section
      aria-label={`Section ${section.name}, flat`}
      className="absolute inset-0 z-30 flex flex-col bg-table"
      onKeyDown={(e) => {
        if (keep && e.code === "KeyM" && !e.ctrlKey && !e.metaKey && !e.altKey) {
          e.preventDefault();
          e.stopPropagation();
          keep();
          return;
        }
        if (e.key !== "Escape" || e.defaultPrevented) return;
        e.preventDefault();
        e.stopPropagation();
        if (from) setFrom(null);
        else onClose();
      }}
    >
      <div className="border-b border-rule bg-ground px-3 py-1.5">
        <div className="flex flex-wrap items-center gap-2">
          <h2 className="min-w-16 flex-1 truncate font-semibold" title={section.name}>
            {section.name}
          </h2>
          {keep && <Button onClick={keep}>Keep the measure (M)</Button>}
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
