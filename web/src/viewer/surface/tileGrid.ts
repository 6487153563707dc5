import type { View } from "../camera/view";

/** A box of the sheet in its own coordinates: least x, least y, greatest x, greatest y. */
export type Paper = readonly [number, number, number, number];

/** Tiles of one size over a sheet: `width` × `height` pixels stand for the whole of its paper. */
export type Level = {
  /** Names the level: tiles of one key and place are the same tile. */
  key: string;
  width: number;
  height: number;
  /** Which of a pyramid's sizes it is; undefined where its tiles are drawn. */
  size?: number;
};

export type TileAt = { column: number; row: number };

export const TILE = 512;

/**
 * Which tiles of a level lie in a view, those nearest its middle first. Columns count from the left, rows from the top.
 * @param view its x and y count from `origin`
 */
export function tilesInView(
  level: Level,
  paper: Paper,
  origin: readonly [number, number],
  view: View,
  width: number,
  height: number,
): TileAt[] {
  const [left, bottom, right, top] = paper;
  const across = level.width / (right - left);
  const down = level.height / (top - bottom);
  const [x, y] = [view.x + origin[0], view.y + origin[1]];
  const [halfWidth, halfHeight] = [width / 2 / view.scale, height / 2 / view.scale];
  const columns = Math.ceil(level.width / TILE);
  const rows = Math.ceil(level.height / TILE);
  const within = (n: number, most: number) => Math.max(0, Math.min(most - 1, n));
  const overlaps = x + halfWidth > left && x - halfWidth < right && y + halfHeight > bottom && y - halfHeight < top;
  if (!overlaps) return [];
  const firstColumn = within(Math.floor(((x - halfWidth - left) * across) / TILE), columns);
  const lastColumn = within(Math.floor(((x + halfWidth - left) * across) / TILE), columns);
  const firstRow = within(Math.floor(((top - y - halfHeight) * down) / TILE), rows);
  const lastRow = within(Math.floor(((top - y + halfHeight) * down) / TILE), rows);
  const found: TileAt[] = [];
  for (let row = firstRow; row <= lastRow; row++)
    for (let column = firstColumn; column <= lastColumn; column++) found.push({ column, row });
  const middle = { column: ((x - left) * across) / TILE - 0.5, row: ((top - y) * down) / TILE - 0.5 };
  const far = (t: TileAt) => Math.hypot(t.column - middle.column, t.row - middle.row);
  return found.sort((a, b) => far(a) - far(b));
}

/** A part of a level, in its pixels from the upper left corner. */
export type Part = { x: number; y: number; width: number; height: number };

/** What a tile covers. */
export const partOf = (level: Level, { column, row }: TileAt): Part => ({
  x: column * TILE,
  y: row * TILE,
  width: Math.min(TILE, level.width - column * TILE),
  height: Math.min(TILE, level.height - row * TILE),
});

/** Where a part lies in the picture of a view, in device pixels from its upper left corner. */
export function partBox(
  level: Level,
  part: Part,
  paper: Paper,
  origin: readonly [number, number],
  view: View,
  width: number,
  height: number,
  ratio: number,
) {
  const [left, bottom, right, top] = paper;
  const unitX = (right - left) / level.width;
  const unitY = (top - bottom) / level.height;
  const k = view.scale * ratio;
  const x = (left + part.x * unitX - origin[0] - view.x) * k + (width * ratio) / 2;
  const y = (view.y + origin[1] - (top - part.y * unitY)) * k + (height * ratio) / 2;
  return { x, y, width: part.width * unitX * k, height: part.height * unitY * k };
}

/** The part of some tiles that lies in a view: of all that is to be drawn for it, what is to be seen at once. Null where none of them does. */
export function partInView(
  level: Level,
  tiles: readonly TileAt[],
  paper: Paper,
  origin: readonly [number, number],
  view: View,
  width: number,
  height: number,
): Part | null {
  const [left, bottom, right, top] = paper;
  const across = level.width / (right - left);
  const down = level.height / (top - bottom);
  const parts = tiles.map((at) => partOf(level, at));
  const [x, y] = [(view.x + origin[0] - left) * across, (top - view.y - origin[1]) * down];
  const [halfWidth, halfHeight] = [(width / 2 / view.scale) * across, (height / 2 / view.scale) * down];
  const x0 = Math.max(Math.floor(x - halfWidth), Math.min(...parts.map((p) => p.x)));
  const y0 = Math.max(Math.floor(y - halfHeight), Math.min(...parts.map((p) => p.y)));
  const x1 = Math.min(Math.ceil(x + halfWidth), Math.max(...parts.map((p) => p.x + p.width)));
  const y1 = Math.min(Math.ceil(y + halfHeight), Math.max(...parts.map((p) => p.y + p.height)));
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : null;
}

/** The smallest size of a pyramid that has a point for every pixel wanted; null when none has. */
export function levelFor(levels: readonly Omit<Level, "key">[], paper: Paper, pixelsPerUnit: number): Level | null {
  const wanted = pixelsPerUnit * (paper[2] - paper[0]) * 0.9;
  const size = levels.findLastIndex((l) => l.width >= wanted);
  return size < 0 ? null : sizeOf(levels, size);
}

/** A size of a pyramid as a level. */
export const sizeOf = (levels: readonly Omit<Level, "key">[], size: number): Level => ({
  key: `size ${size}`,
  width: levels[size]!.width,
  height: levels[size]!.height,
  size,
});
