import { Fragment, memo, type CSSProperties } from "react";
import type { CellLine, CellStyle, MergedCells, TableCell, TableFacts } from "../../api/types";
import type { TableBlocks } from "./blocks";
import type { TableLayout } from "./layout";

export type Stretch = { from: number; to: number };

type Props = {
  facts: TableFacts;
  layout: TableLayout;
  blocks: TableBlocks;
  /** Counts what has come, so that the pane is drawn anew. */
  changes: number;
  rows: Stretch;
  columns: Stretch;
  zoom: number;
  /** Which pixels of the table, zoomed, lie at the pane's corner. */
  left: number;
  top: number;
};

const GRID = "1px solid #e4e0d5";

const line = (l: CellLine | undefined | null, zoom: number) =>
  l ? `${Math.max(1, Math.round(l.width * zoom))}px ${l.dash} ${l.colour}` : undefined;

/** What a cell is beside its text: its ground and its lines. */
function boxStyle(style: CellStyle | undefined, hasGrid: boolean, zoom: number): CSSProperties {
  const grid = hasGrid && !style?.fill ? GRID : undefined;
  return {
    background: style?.fill ?? undefined,
    borderLeft: line(style?.left, zoom),
    borderTop: line(style?.top, zoom),
    borderRight: line(style?.right, zoom) ?? grid,
    borderBottom: line(style?.bottom, zoom) ?? grid,
  };
}

const ACROSS = { left: "flex-start", centre: "center", right: "flex-end", fill: "flex-start" } as const;
const DOWN = { top: "flex-start", middle: "center", bottom: "flex-end" } as const;

/** How a cell's text stands in its box. */
function textStyle(style: CellStyle, zoom: number): { box: CSSProperties; text: CSSProperties } {
  const turn = style.turn ?? 0;
  const pad = 4 * zoom;
  const indent = (style.indent ?? 0) * 9 * zoom;
  return {
    box: {
      color: style.ink ?? undefined,
      fontWeight: style.isBold ? 600 : 500,
      fontStyle: style.isItalic ? "italic" : undefined,
      textDecoration:
        [style.isUnderlined && "underline", style.isStruck && "line-through"].filter(Boolean).join(" ") || undefined,
      fontSize: ((style.size ?? 11) * 96 * 0.93 * zoom) / 72,
      lineHeight: 1.25,
      alignItems: DOWN[style.down ?? "bottom"],
      justifyContent: turn === 0 ? ACROSS[style.across ?? "left"] : "center",
      paddingLeft: pad + (style.across === "right" ? 0 : indent),
      paddingRight: pad + (style.across === "right" ? indent : 0),
    },
    text:
      turn === 255
        ? { writingMode: "vertical-rl", textOrientation: "upright" }
        : turn !== 0
          ? { transform: `rotate(${-turn}deg)`, whiteSpace: "pre" }
          : {
              whiteSpace: style.wraps ? "pre-wrap" : "pre",
              overflow: "hidden",
              textOverflow: "ellipsis",
              overflowWrap: style.wraps ? "break-word" : undefined,
              maxHeight: "100%",
              textAlign: style.across === "centre" ? "center" : style.across === "right" ? "right" : "left",
            },
  };
}

/** Those merged ranges that reach into a window. */
const mergesIn = (merges: readonly MergedCells[], rows: Stretch, columns: Stretch): MergedCells[] =>
  merges.filter(
    (m) =>
      m.row <= rows.to && m.row + m.rows > rows.from && m.column <= columns.to && m.column + m.columns > columns.from,
  );

type Laid = Pick<Props, "facts" | "layout" | "zoom" | "left" | "top">;

/** Where some cells lie in a pane. */
function place({ layout, zoom, left, top }: Laid, row: number, column: number, high = 1, wide = 1): CSSProperties {
  const [x0, x1] = [layout.left(column), layout.left(Math.min(layout.columns, column + wide))];
  const [y0, y1] = [layout.top(row), layout.top(Math.min(layout.rows, row + high))];
  return {
    position: "absolute",
    left: Math.round(x0 * zoom) - left,
    top: Math.round(y0 * zoom) - top,
    width: Math.round(x1 * zoom) - Math.round(x0 * zoom),
    height: Math.round(y1 * zoom) - Math.round(y0 * zoom),
  };
}

/** Some rows and columns of a table. */
export const Pane = memo(function Pane(p: Props) {
  const { facts, blocks, rows, columns, zoom } = p;
  const merges = mergesIn(facts.merges, rows, columns);
  const covered = new Map<number, number[]>();
  for (const m of merges)
    for (let r = Math.max(m.row, rows.from); r < m.row + m.rows && r <= rows.to; r++)
      for (let c = Math.max(m.column, columns.from); c < m.column + m.columns && c <= columns.to; c++)
        covered.set(r, [...(covered.get(r) ?? []), c]);
  const laid: Laid = { facts, layout: p.layout, zoom, left: p.left, top: p.top };
  return (
    <>
      {Array.from({ length: rows.to - rows.from + 1 }, (_, i) => rows.from + i).map((r) => (
        <PaneRow
          key={r}
          {...laid}
          row={r}
          cells={blocks.row(r)?.cells}
          from={columns.from}
          to={columns.to}
          covered={covered.get(r)?.join() ?? ""}
        />
      ))}
      {merges.map((m) => {
        const cell = blocks.row(m.row)?.cells.find((c) => c.column === m.column);
        const style = cell && facts.styles[cell.style];
        const at = place(laid, m.row, m.column, m.rows, m.columns);
        return (
          <Fragment key={`${m.row},${m.column}`}>
            <div style={{ ...at, background: "white" }} aria-hidden />
            <div style={{ ...at, ...boxStyle(style, facts.hasGrid, zoom) }} aria-hidden />
            {cell && style && cell.text !== "" && <Words style={style} zoom={zoom} at={at} text={cell.text} />}
          </Fragment>
        );
      })}
    </>
  );
});

type RowProps = Laid & {
  row: number;
  cells: readonly TableCell[] | undefined;
  from: number;
  to: number;
  /** Columns that merged ranges cover here, with commas between. */
  covered: string;
};

/** One row; scrolling draws only those anew that come into view. */
const PaneRow = memo(function PaneRow(p: RowProps) {
  const { facts, layout, zoom, row, from, to } = p;
  const covered = new Set(p.covered === "" ? [] : p.covered.split(",").map(Number));
  const cells = new Map(p.cells?.map((c) => [c.column, c]));
  const boxes = [];
  for (let c = from; c <= to; c++) {
    if (covered.has(c)) continue;
    const cell = cells.get(c);
    boxes.push(
      <div
        key={c}
        style={{ ...place(p, row, c), ...boxStyle(cell && facts.styles[cell.style], facts.hasGrid, zoom) }}
        aria-hidden
      />,
    );
  }
  return (
    <>
      {boxes}
      {p.cells?.map((cell) => {
        // What begins left of the window may run into it.
        if (cell.text === "" || cell.column > to || covered.has(cell.column)) return null;
        const style = facts.styles[cell.style]!;
        const runs = (style.across ?? "left") === "left" && !style.wraps && (style.turn ?? 0) === 0;
        let until = cell.column + 1;
        const last = Math.min(layout.columns, cell.column + 30);
        if (runs) while (until < last && !cells.get(until)?.text && !covered.has(until)) until++;
        if (until <= from) return null;
        return (
          <Words
            key={cell.column}
            style={style}
            zoom={zoom}
            at={place(p, row, cell.column, 1, until - cell.column)}
            text={cell.text}
          />
        );
      })}
    </>
  );
});

type WordsProps = { style: CellStyle; zoom: number; at: CSSProperties; text: string };

function Words({ style, zoom, at, text }: WordsProps) {
  const { box, text: inner } = textStyle(style, zoom);
  return (
    <div title={text.length > 12 ? text : undefined} style={{ ...at, ...box, display: "flex", overflow: "hidden" }}>
      <span style={inner}>{text}</span>
    </div>
  );
}
