import { Fragment } from "react";
import type { UploadState } from "../api/types";

type Report = NonNullable<UploadState["report"]>;
type Field = NonNullable<Report["titleBlock"]>["fields"][number];

const MOST_SHEETS = 12;
const number = new Intl.NumberFormat("en-GB", { maximumFractionDigits: 0 });

/** How large a sheet is, in its own unit; of a picture that does not say, in points. */
function sizeOf({ extents: [x0, y0, x1, y1, ...rest], unit }: Report["leaves"][number]): string {
  // A model has three extents: least x, y, z, greatest x, y, z.
  if (rest.length > 0) {
    const sizes = [y1! - x0!, rest[0]! - y0!, rest[1]! - x1!].map((n) => number.format(n));
    return `${sizes.join(" × ")}${unit === "millimetre" ? " mm" : ", unit not stated"}`;
  }
  const [wide, high] = [x1! - x0!, y1! - y0!];
  if (unit === "cell") return `${number.format(high)} rows × ${number.format(wide)} columns`;
  if (!(wide > 0) || !(high > 0)) return "empty";
  const words = { millimetre: "mm", centimetre: "cm", metre: "m", inch: "in", foot: "ft" }[unit];
  return `${number.format(wide)} × ${number.format(high)}${words ? ` ${words}` : unit === "unknown" ? ", unit not stated" : ` ${unit}s`}`;
}

const kindOf = ({ unit, extents }: Report["leaves"][number]) =>
  unit === "cell" ? "table" : extents.length === 6 ? "model" : "sheet";

const fieldWords: Readonly<Record<Field["kind"], string>> = {
  number: "Number",
  title: "Title",
  revision: "Revision",
  sheet: "Sheet",
  scale: "Scale",
  date: "Date",
  drawn: "Drawn",
  checked: "Checked",
  approved: "Approved",
  project: "Project",
  client: "Client",
  material: "Material",
};

/** What the title block says: its fields, and all that stands in it. */
function Block({ block: { fields, lines } }: { block: NonNullable<Report["titleBlock"]> }) {
  return (
    <div className="my-2 border border-rule bg-raised px-2 py-1.5">
      <p className="label">Title block</p>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        {fields.map((f) => (
          <Fragment key={f.kind}>
            <dt className="text-soft">{fieldWords[f.kind]}</dt>
            <dd className="break-words">
              {f.words}
              {!f.isLabelled && <span className="text-soft"> by its place</span>}
            </dd>
          </Fragment>
        ))}
      </dl>
      <details className="text-sm">
        <summary className="text-soft">All {lines.length} lines in it</summary>
        {lines.map((l, i) => (
          <p key={i} className="break-words">
            {l}
          </p>
        ))}
      </details>
    </div>
  );
}

/** How many of the other files that a file consists of are there. */
export function togetherWords(beside: NonNullable<Report["beside"]>): string {
  const there = beside.filter((b) => b.isThere).length;
  const files = beside.length === 1 ? "other file" : "other files";
  return there === beside.length
    ? `Put together from ${there} ${files}`
    : `Put together from ${there} of ${beside.length} ${files}`;
}

/** What was read of an upload, before it is registered: its first sheet, what it holds, what it leaves out. */
export function ReadReport({ upload, report }: { upload: string; report: Report }) {
  const { leaves } = report;
  if (leaves.length === 0)
    return (
      <p className="text-ochre">
        Froe cannot show files of this kind. It travels along as a supporting file, and whoever gets it downloads it.
      </p>
    );
  return (
    <>
      <p className="text-soft">
        {report.format} {report.version}
        {leaves.length > 1
          ? ` · ${leaves.length} ${kindOf(leaves[0]!)}s`
          : ` · ${leaves[0]!.name} · ${sizeOf(leaves[0]!)}`}
      </p>
      <img
        alt={`The first ${kindOf(leaves[0]!)}, as it was read`}
        src={`/api/uploads/${upload}/picture`}
        className="my-2 max-h-52 w-full border border-rule bg-paper object-contain"
      />
      {(leaves.length > 1 ? leaves.slice(0, MOST_SHEETS) : []).map((s, i) => (
        <p key={i} className="text-sm">
          {s.name} <span className="text-soft">· {sizeOf(s)}</span>
        </p>
      ))}
      {leaves.length > MOST_SHEETS && <p className="text-sm text-soft">and {leaves.length - MOST_SHEETS} more</p>}
      {report.titleBlock && <Block block={report.titleBlock} />}
      {(report.beside?.length ?? 0) > 0 && (
        <p className="text-sm text-soft">
          {togetherWords(report.beside!)}.
          {report.beside!.some((b) => !b.isThere) && " What is missing is put in by itself when it comes."}
        </p>
      )}
      {report.notShown.map((n) => (
        <p key={n.type + n.why} className="text-ochre">
          {n.count} × {n.type} not shown: {n.why.replace(/\.$/, "")}.
        </p>
      ))}
      {(report.pictureOnly?.length ?? 0) > 0 && (
        <p className="text-sm text-soft">
          Shown, but not to be snapped to or compared:{" "}
          {report.pictureOnly!.map((n) => `${n.count} × ${n.type}`).join(", ")}.
        </p>
      )}
    </>
  );
}
