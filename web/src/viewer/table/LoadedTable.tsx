import {
  useCallback,
  useEffect,
  useImperativeHandle,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
  type ReactNode,
  type Ref,
} from "react";
import type { CellRange, Point, TableFacts, TableLeaf } from "../../api/types";
import { windowPoint } from "../camera/points";
import type { Place, SheetHandle } from "../sheet";
import type { Together } from "../camera/together";
import { TableBlocks } from "./blocks";
import { copyCells } from "./copyCells";
import { TableHeads } from "./Heads";
import { rangeOf, rangeWords, TableLayout, type Cell, type OverCells } from "./layout";
import { Pane, type Stretch } from "./Pane";
import { Picked, PickedLine } from "./Picked";
import { stepFrom } from "./steps";
import { useTableTogether } from "./useTableTogether";

export type TableProps = {
  draft: string;
  leaf: TableLeaf;
  handle: Ref<SheetHandle>;
  /** Where to go; the same place is gone to again when it is given anew. */
  lookAt?: readonly Point[] | null;
  overlay: (over: OverCells) => ReactNode;
  /** What stands in the window over all of it. */
  floating?: (place: Place) => ReactNode;
  /** With what else it moves; null when it moves alone. */
  together?: Together | null;
  /** Writes a note about cells; null when none can be written. */
  onNote: ((range: CellRange) => void) | null;
};

/** Where each table was left, as long as the page is open. */
const left = new Map<string, { top: number; left: number; zoom: number }>();

const HEAD_HEIGHT = 24;
/** Browsers draw nothing that is higher than some millions of pixels: what is longer scrolls in larger steps. */
const MOST_HEIGHT = 15e6;
/** Rows and columns drawn beyond the window, so that a small step shows no gap. */
const BEYOND = 6;
const STEP = 8;

/** A table that is here. */
export function LoadedTable(props: TableProps & { facts: TableFacts }) {
  const { draft, leaf, facts, handle, lookAt, overlay, floating, onNote, together = null } = props;
  const frame = useRef<HTMLDivElement>(null);
  const layout = useMemo(() => new TableLayout(facts), [facts]);
  const blocks = useMemo(
    () => new TableBlocks(draft, leaf.position, facts.rowsInBlock),
    [draft, leaf.position, facts.rowsInBlock],
  );
  const changes = useSyncExternalStore(blocks.subscribe, blocks.changes);
  const kept = `${draft}/${leaf.position}`;
  const [zoom, setZoom] = useState(() => left.get(kept)?.zoom ?? 1);
  const [scroll, setScroll] = useState({ top: 0, left: 0 });
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [picked, setPicked] = useState<{ anchor: Cell; head: Cell } | null>(null);
  const range = picked && rangeOf(picked.anchor, picked.head);

  useLayoutEffect(() => {
    const element = frame.current!;
    const was = left.get(kept);
    if (was) element.scrollTo(was.left, was.top);
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, [kept]);
  useEffect(() => {
    left.set(kept, { ...scroll, zoom });
  }, [kept, scroll, zoom]);

  const headWidth = 16 + 8 * Math.max(3, String(layout.rows).length);
  const [frozenWidth, frozenHeight] = [
    layout.left(facts.frozenColumns) * zoom,
    layout.top(facts.frozenRows) * zoom,
  ].map(Math.round) as [number, number];
  const [width, height] = [Math.ceil(layout.width * zoom), Math.ceil(layout.height * zoom)];
  const held = Math.min(height, MOST_HEIGHT);
  const room = Math.max(1, held + HEAD_HEIGHT - size.height);
  const trueTop = height === held ? scroll.top : Math.round((scroll.top / room) * (height + HEAD_HEIGHT - size.height));
  const shift = trueTop - scroll.top;

  const rows: Stretch = {
    from: Math.max(facts.frozenRows, stepDown(layout.rowAt((trueTop + frozenHeight) / zoom) - BEYOND)),
    to: Math.min(layout.rows - 1, stepUp(layout.rowAt((trueTop + size.height) / zoom) + BEYOND)),
  };
  const columns: Stretch = {
    from: Math.max(facts.frozenColumns, stepDown(layout.columnAt((scroll.left + frozenWidth) / zoom) - 1)),
    to: Math.min(layout.columns - 1, stepUp(layout.columnAt((scroll.left + size.width) / zoom) + 1)),
  };
  const frozenRows: Stretch = { from: 0, to: facts.frozenRows - 1 };
  const frozenColumns: Stretch = { from: 0, to: facts.frozenColumns - 1 };
  const want = useCallback(() => {
    if (facts.frozenRows > 0) blocks.want(0, facts.frozenRows - 1);
    blocks.want(rows.from, rows.to);
  }, [blocks, facts.frozenRows, rows.from, rows.to]);
  useEffect(want, [want]);

  const scrollTo = useCallback(
    (x: number, y: number) => {
      const element = frame.current!;
      const whole = height + HEAD_HEIGHT - element.clientHeight;
      element.scrollTo(x, height === held ? y : (y / Math.max(1, whole)) * room);
    },
    [height, held, room],
  );
  useTableTogether(together, { layout, zoom, setZoom, left: scroll.left, top: trueTop, scrollTo });

  /** Brings a cell into view. */
  const show = useCallback(
    (cell: Cell) => {
      const element = frame.current!;
      const [x0, x1] = [layout.left(cell.column) * zoom, layout.left(cell.column + 1) * zoom];
      const [y0, y1] = [layout.top(cell.row) * zoom, layout.top(cell.row + 1) * zoom];
      const [w, h] = [element.clientWidth - headWidth, element.clientHeight - HEAD_HEIGHT];
      let { scrollLeft: x } = element;
      let y = trueTop;
      if (cell.column >= facts.frozenColumns) {
        if (x0 - frozenWidth < x) x = x0 - frozenWidth;
        else if (x1 > x + w) x = Math.min(x0 - frozenWidth, x1 - w);
      }
      if (cell.row >= facts.frozenRows) {
        if (y0 - frozenHeight < y) y = y0 - frozenHeight;
        else if (y1 > y + h) y = Math.min(y0 - frozenHeight, y1 - h);
      }
      scrollTo(x, y);
    },
    [layout, zoom, headWidth, trueTop, facts, frozenWidth, frozenHeight, scrollTo],
  );

  const lookedAt = useRef<readonly Point[] | null>(null);
  useEffect(() => {
    if (!lookAt || lookedAt.current === lookAt || size.width === 0) return;
    lookedAt.current = lookAt;
    const middle = (values: number[]) => Math.max(0, Math.floor((Math.min(...values) + Math.max(...values)) / 2));
    show({
      row: Math.min(layout.rows - 1, middle(lookAt.map((p) => p.y))),
      column: Math.min(layout.columns - 1, middle(lookAt.map((p) => p.x))),
    });
  }, [lookAt, size, show, layout]);

  const zoomBy = useCallback((factor: number) => setZoom((z) => Math.min(4, Math.max(0.4, z * factor))), []);
  useImperativeHandle(
    handle,
    () => ({
      fit: () => {
        setZoom(1);
        frame.current?.scrollTo(0, 0);
      },
      zoom: zoomBy,
    }),
    [zoomBy],
  );

  /** The cell under the hand; beside the cells, on their heads, the whole row or column. */
  const under = (e: React.MouseEvent): { cell: Cell; head: "row" | "column" | "all" | null } => {
    const r = frame.current!.getBoundingClientRect();
    const [px, py] = [e.clientX - r.left - headWidth, e.clientY - r.top - HEAD_HEIGHT];
    const x = px < frozenWidth ? Math.max(0, px) : px + scroll.left;
    const y = py < frozenHeight ? Math.max(0, py) : py + trueTop;
    return {
      cell: { row: layout.rowAt(y / zoom), column: layout.columnAt(x / zoom) },
      head: px < 0 && py < 0 ? "all" : px < 0 ? "row" : py < 0 ? "column" : null,
    };
  };
  const pick = (at: ReturnType<typeof under>, from: Cell | null) => {
    const { row, column } = at.cell;
    const last = { row: layout.rows - 1, column: layout.columns - 1 };
    const anchor = from ?? at.cell;
    if (at.head === "all") setPicked({ anchor: { row: 0, column: 0 }, head: last });
    else if (at.head === "row")
      setPicked({ anchor: { row: anchor.row, column: 0 }, head: { row, column: last.column } });
    else if (at.head === "column")
      setPicked({ anchor: { row: 0, column: anchor.column }, head: { row: last.row, column } });
    else setPicked({ anchor, head: at.cell });
  };
  const drag = useRef<{ from: Cell; head: ReturnType<typeof under>["head"] } | null>(null);
  const isBeside = (e: React.MouseEvent) => {
    const r = frame.current!.getBoundingClientRect();
    return (
      e.clientX - r.left >= frame.current!.clientWidth ||
      e.clientY - r.top >= frame.current!.clientHeight ||
      (e.target as HTMLElement).closest("[data-on-sheet]") !== null
    );
  };

  const key = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget || e.altKey) return;
    const page = Math.max(
      1,
      layout.rowAt((trueTop + size.height - HEAD_HEIGHT) / zoom) - layout.rowAt(trueTop / zoom) - 1,
    );
    const to = stepFrom(picked?.head ?? null, e, layout, page);
    if (to) {
      e.preventDefault();
      setPicked({ anchor: e.shiftKey && picked ? picked.anchor : to, head: to });
      show(to);
      return;
    }
    if ((e.ctrlKey || e.metaKey) && e.code === "KeyA") {
      e.preventDefault();
      setPicked({ anchor: { row: 0, column: 0 }, head: { row: layout.rows - 1, column: layout.columns - 1 } });
    } else if ((e.ctrlKey || e.metaKey) && e.code === "KeyC" && range) {
      e.preventDefault();
      void copyCells(blocks, range);
    } else if (e.key === "Enter" && range && onNote) {
      e.preventDefault();
      onNote(range);
    } else if (e.key === "Escape") setPicked(null);
    else if (e.key === "+" || e.key === "=") zoomBy(1.25);
    else if (e.key === "-") zoomBy(0.8);
    else if (e.key === "0") setZoom(1);
  };

  const part = (theirRows: Stretch, theirColumns: Stretch, x: number, y: number): OverCells => ({
    holds: ({ row, column }) =>
      row >= theirRows.from && row <= theirRows.to && column >= theirColumns.from && column <= theirColumns.to,
    meets: ({ from, to }) =>
      from.y <= theirRows.to && to.y >= theirRows.from && from.x <= theirColumns.to && to.x >= theirColumns.from,
    box: ({ from, to }) => ({
      left: Math.round(layout.left(from.x) * zoom) + x,
      top: Math.round(layout.top(from.y) * zoom) + y,
      width: Math.round(layout.left(to.x + 1) * zoom) - Math.round(layout.left(from.x) * zoom),
      height: Math.round(layout.top(to.y + 1) * zoom) - Math.round(layout.top(from.y) * zoom),
    }),
  });
  const last = {
    rows: { from: facts.frozenRows, to: layout.rows },
    columns: { from: facts.frozenColumns, to: layout.columns },
  };
  /** The cells of a part with what lies over them. @param x where the table's left lies in the part */
  const cellsOf = (theirRows: Stretch, theirColumns: Stretch, all: OverCells, x: number, y: number) => (
    <>
      {theirRows.to >= theirRows.from && theirColumns.to >= theirColumns.from && (
        <Pane
          facts={facts}
          layout={layout}
          blocks={blocks}
          changes={changes}
          rows={theirRows}
          columns={theirColumns}
          zoom={zoom}
          left={-x}
          top={-y}
        />
      )}
      {overlay(all)}
      {range && picked && all.meets(range) && <Picked range={range} head={picked.head} over={all} />}
    </>
  );
  const place: Place = ({ x, y }) =>
    windowPoint(
      headWidth + layout.left(Math.min(layout.columns, x)) * zoom - (x < facts.frozenColumns ? 0 : scroll.left),
      HEAD_HEIGHT + layout.top(Math.min(layout.rows, y)) * zoom - (y < facts.frozenRows ? 0 : trueTop),
    );

  const above = floating?.(place);

  return (
    <>
      <div
        ref={frame}
        role="application"
        aria-label={`Table ${leaf.name}, ${layout.rows} rows and ${layout.columns} columns. Arrow keys pick cells, with Shift a range.`}
        tabIndex={0}
        data-scrolls
        data-testid="table"
        className="on-paper absolute inset-0 cursor-cell overflow-auto bg-paper font-narrow text-[#16191c] outline-none select-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-spruce"
        onScroll={(e) => setScroll({ top: e.currentTarget.scrollTop, left: e.currentTarget.scrollLeft })}
        onKeyDown={key}
        onPointerDown={(e) => {
          if (e.button !== 0 || e.pointerType === "touch" || isBeside(e)) return;
          const at = under(e);
          drag.current = { from: e.shiftKey && picked ? picked.anchor : at.cell, head: at.head };
          frame.current!.setPointerCapture(e.pointerId);
          pick(at, drag.current.from);
        }}
        onPointerMove={(e) => {
          if (drag.current) pick({ ...under(e), head: drag.current.head }, drag.current.from);
        }}
        onPointerUp={() => (drag.current = null)}
        onPointerCancel={() => (drag.current = null)}
        onClick={(e) => {
          if ((e.nativeEvent as PointerEvent).pointerType === "touch" && !isBeside(e)) pick(under(e), null);
        }}
      >
        <div className="relative" style={{ width: width + headWidth, height: held + HEAD_HEIGHT }}>
          <div className="sticky top-0 left-0 z-30 h-0 w-0">
            <div
              className="absolute overflow-hidden border-r border-b border-rule bg-paper"
              style={{ width: headWidth + frozenWidth, height: HEAD_HEIGHT + frozenHeight }}
            >
              {cellsOf(
                frozenRows,
                frozenColumns,
                part(frozenRows, frozenColumns, headWidth, HEAD_HEIGHT),
                headWidth,
                HEAD_HEIGHT,
              )}
              <TableHeads
                {...{ facts, layout, zoom, range, headWidth }}
                headHeight={HEAD_HEIGHT}
                rows={frozenRows}
                columns={frozenColumns}
                isCorner
              />
            </div>
          </div>
          <div className="sticky top-0 z-20 h-0">
            <div
              className="absolute left-0 overflow-hidden border-b border-rule bg-paper"
              style={{ width: width + headWidth, height: HEAD_HEIGHT + frozenHeight }}
            >
              {cellsOf(
                frozenRows,
                columns,
                part(frozenRows, last.columns, headWidth, HEAD_HEIGHT),
                headWidth,
                HEAD_HEIGHT,
              )}
              <TableHeads
                {...{ facts, layout, zoom, range, headWidth }}
                headHeight={HEAD_HEIGHT}
                rows={null}
                columns={columns}
              />
            </div>
          </div>
          <div className="sticky left-0 z-10 w-0">
            <div
              className="absolute top-0 overflow-hidden border-r border-rule bg-paper"
              style={{ width: headWidth + frozenWidth, height: held + HEAD_HEIGHT }}
            >
              {cellsOf(
                rows,
                frozenColumns,
                part(last.rows, frozenColumns, headWidth, HEAD_HEIGHT - shift),
                headWidth,
                HEAD_HEIGHT - shift,
              )}
              <TableHeads
                {...{ facts, layout, zoom, range, headWidth }}
                headHeight={HEAD_HEIGHT}
                rows={rows}
                columns={null}
                shift={shift}
              />
            </div>
          </div>
          {cellsOf(
            rows,
            columns,
            part(last.rows, last.columns, headWidth, HEAD_HEIGHT - shift),
            headWidth,
            HEAD_HEIGHT - shift,
          )}
        </div>
      </div>
      {range && picked && !above && (
        <PickedLine
          name={rangeWords(range, layout.rows, layout.columns)}
          words={blocks.row(picked.head.row)?.cells.find((c) => c.column === picked.head.column)?.text}
          onNote={onNote && (() => onNote(range))}
        />
      )}
      {blocks.fault && (
        <p role="alert" className="absolute bottom-4 left-4 z-30 border border-rust bg-raised px-3 py-1.5 text-rust">
          {blocks.fault}{" "}
          <button type="button" className="underline" onClick={want}>
            Load again
          </button>
        </p>
      )}
      {above}
    </>
  );
}

const stepDown = (n: number) => Math.floor(n / STEP) * STEP;
const stepUp = (n: number) => Math.ceil(n / STEP) * STEP;
