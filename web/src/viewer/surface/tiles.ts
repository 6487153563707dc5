import type { PageFacts, TilePyramid } from "../../api/types";
import { fetchPicture } from "./fetchFile";
import type { Pages } from "./pages";
import { levelFor, partOf, sizeOf, type Level, type Paper, type Part, type TileAt } from "./tileGrid";

/** Tiles that the server has cut, by the preparation they are of: a browser may have kept those of an earlier one. */
export type CutTiles = { url: string; prepared: number; pyramid: TilePyramid };

/** Where tiles come from. */
export type TileSource = {
  /** The tiles to draw a view with. */
  level(pixelsPerUnit: number): Level;
  /** A tile; rejects with an AbortError when it is no longer wanted. */
  tile(level: Level, at: TileAt, stop: AbortSignal): Promise<ImageBitmap>;
  /** Any part at once; null where parts come as tiles only. */
  part(level: Level, part: Part, stop: AbortSignal): Promise<ImageBitmap> | null;
  showLayers(on: readonly boolean[]): void;
  showMarks(on: boolean): void;
  /** Nobody looks any more. */
  end(): void;
};

/** Most pixels across a page at the closest zoom; closer, its tiles are magnified. */
const MOST_ACROSS = 400_000;

/** How much closer one comes at a time, about. */
const CLOSER = 1.25;

const cutTile = ({ url, prepared }: CutTiles, level: Level, at: TileAt, stop: AbortSignal) =>
  fetchPicture(`${url}/${level.size}/${at.column}/${at.row}?prepared=${prepared}`, stop);

/**
 * Tiles of a page, drawn from the file at any size.
 * @param cut those of a page that draws much, as its file shows it: what they are fine enough for is not drawn anew
 */
export function pageTiles(pages: Pages, facts: PageFacts, paper: Paper, cut: CutTiles | null): TileSource {
  let hidden: string[] = facts.layers.flatMap((l) => (l.isOn ? [] : l.groups));
  const asFile = hidden.join();
  // Until somebody switches a layer the file is shown as it is: some switch theirs by rules of their own.
  let change: { hidden: string[] } | null = null;
  let marks = true;
  pages.hold();
  const drawn = (level: Level, { x, y, width, height }: Part, stop: AbortSignal) =>
    pages.tile(
      { page: facts.page, marks, width: level.width, height: level.height, x, y, tileWidth: width, tileHeight: height },
      change && facts.switch ? { ...facts.switch, hidden: change.hidden } : null,
      stop,
    );
  return {
    part: (level, part, stop) => (level.size === undefined ? drawn(level, part, stop) : null),
    level: (pixelsPerUnit) => {
      const known = cut && marks && !change ? levelFor(cut.pyramid.levels, paper, pixelsPerUnit) : null;
      if (known) {
        // A step closer it is drawn from the file, and reading all that such a page draws takes a while.
        if (!levelFor(cut!.pyramid.levels, paper, pixelsPerUnit * CLOSER)) pages.open(facts.page, marks);
        return known;
      }
      const longer = Math.max(paper[2] - paper[0], paper[3] - paper[1]);
      const scale = Math.min(pixelsPerUnit, MOST_ACROSS / longer);
      const width = Math.max(1, Math.round((paper[2] - paper[0]) * scale));
      const height = Math.max(1, Math.round((paper[3] - paper[1]) * scale));
      return { key: `${width}×${height} ${change ? hidden.join() : ""} ${marks}`, width, height };
    },
    tile: (level, at, stop) =>
      level.size === undefined ? drawn(level, partOf(level, at), stop) : cutTile(cut!, level, at, stop),
    showLayers: (on) => {
      hidden = facts.layers.flatMap((l, i) => (on[i] ? [] : l.groups));
      if (change || hidden.join() !== asFile) change = { hidden };
    },
    showMarks: (on) => {
      marks = on;
    },
    end: () => pages.letGo(),
  };
}

/** Tiles of a picture; closer than they go they are magnified. */
export function pictureTiles(cut: CutTiles, paper: Paper): TileSource {
  const { levels } = cut.pyramid;
  return {
    level: (pixelsPerUnit) => levelFor(levels, paper, pixelsPerUnit) ?? sizeOf(levels, 0),
    part: () => null,
    tile: (level, at, stop) => cutTile(cut, level, at, stop),
    showLayers: () => undefined,
    showMarks: () => undefined,
    end: () => undefined,
  };
}
