import { steadily } from "../../api/again";
import { api } from "../../api/client";
import type { SheetLeaf } from "../../api/types";
import { fetchFile } from "./fetchFile";
import { drawTexts } from "./lettering";
import { openPages } from "./openPages";
import { readPreparedSheet } from "./preparedSheet";
import { StrokePainter } from "./strokePainter";
import type { Surface } from "./surface";
import { TilePainter } from "./tilePainter";
import { pageTiles, pictureTiles, type CutTiles } from "./tiles";

/** Opens a leaf of a draft: strokes once they are all here, pages and pictures at once. */
export async function openSurface(
  draft: string,
  leaf: SheetLeaf,
  onShare: (share: number) => void,
  stop: AbortSignal,
): Promise<Surface> {
  const { frame, position, name, prepared } = leaf;
  if (frame.surface === "strokes") {
    const sheet = readPreparedSheet(await fetchFile(`/api/drafts/${draft}/leaves/${position}/geometry`, onShare, stop));
    return {
      ...sheet,
      painter: (canvas, onFault) => new StrokePainter(canvas, sheet, onFault),
      letter: (canvas, on, view, width, height, ratio) => drawTexts(canvas, sheet, on, view, width, height, ratio),
    };
  }
  const { minX, minY, maxX, maxY } = frame.extents;
  const paper = {
    name,
    unit: frame.unit,
    origin: [(minX + maxX) / 2, (minY + maxY) / 2] as const,
    extents: [minX, minY, maxX, maxY] as const,
    letter: null,
  };
  const url = `/api/drafts/${draft}/leaves/${position}/tiles`;
  const cutTiles = async (): Promise<CutTiles> => ({
    url,
    prepared,
    pyramid: await steadily(() => api.get(`/drafts/${draft}/leaves/${position}/tiles`), stop),
  });
  if (frame.surface === "page" || frame.surface === "heavyPage") {
    const [facts, cut] = await Promise.all([
      steadily(() => api.get(`/drafts/${draft}/leaves/${position}/page`), stop),
      frame.surface === "heavyPage" ? cutTiles() : null,
    ]);
    const layers = facts.switch ? facts.layers : [];
    return {
      ...paper,
      layers,
      painter: (canvas, onFault) =>
        new TilePainter(
          canvas,
          paper.extents,
          paper.origin,
          pageTiles(
            openPages(facts.isDerived ? `/api/drafts/${draft}/leaves/${position}/paged` : `/api/drafts/${draft}/file`),
            facts,
            paper.extents,
            cut,
          ),
          onFault,
        ),
    };
  }
  const cut = await cutTiles();
  return {
    ...paper,
    layers: [],
    painter: (canvas, onFault) =>
      new TilePainter(canvas, paper.extents, paper.origin, pictureTiles(cut, paper.extents), onFault),
  };
}
