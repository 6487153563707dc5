import type { View } from "../view";

/** A box of the sheet in its own coordinates: least x, least y, greatest x, greatest y. */
export type Paper = readonly [number, number, number, number];

/** Tiles of one size over a sheet: `width` × `height` pixels stand for the whole of its paper. */
export type Level = {
  /** Names the level: tiles of one key and place are the same tile. */
  key: string;
  width: number;
  height: number;
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

/** Where a tile lies in the picture of a view, in device pixels from its upper left corner. */
export function tileBox(
  level: Level,
  { column, row }: TileAt,
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
  const pixels = {
    width: Math.min(TILE, level.width - column * TILE),
    height: Math.min(TILE, level.height - row * TILE),
  };
  const k = view.scale * ratio;
  const x = (left + column * TILE * unitX - origin[0] - view.x) * k + (width * ratio) / 2;
  const y = (view.y + origin[1] - (top - row * TILE * unitY)) * k + (height * ratio) / 2;
  return { x, y, width: pixels.width * unitX * k, height: pixels.height * unitY * k, pixels };
}

/** The smallest size of a picture's pyramid that has a point for every pixel wanted; the whole when none has. */
export function levelFor(
  levels: readonly { width: number; height: number }[],
  paper: Paper,
  pixelsPerUnit: number,
): number {
  const wanted = pixelsPerUnit * (paper[2] - paper[0]) * 0.9;
  let best = 0;
  levels.forEach((l, i) => {
    if (l.width >= wanted) best = i;
  });
  return best;
}
