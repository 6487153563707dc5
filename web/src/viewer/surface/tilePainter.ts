import type { View } from "../camera/view";
import type { Painter } from "./painter";
import { partBox, partInView, partOf, tilesInView, type Level, type Paper, type Part, type TileAt } from "./tileGrid";
import type { TileSource } from "./tiles";

/** Tiles kept at hand, at a megabyte each: those of so many views, and a few at least. A small screen mostly has a small memory. */
const [VIEWS_KEPT, LEAST_KEPT] = [3, 32];
/** Tiles asked for at once. */
const AT_ONCE = 8;

/** Draws a sheet from tiles, each as it comes; until then what was there before stands in for it. */
export class TilePainter implements Painter {
  readonly isCostly = true;
  /** Tiles are drawn elsewhere, and what is not wanted any more is taken back: the hand is not held up. */
  readonly rest = 40;
  private readonly kept = new Map<string, ImageBitmap>();
  /** The view that the canvas shows. */
  private shown: View | null = null;
  private stop = new AbortController();
  private most = LEAST_KEPT;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly paper: Paper,
    private readonly origin: readonly [number, number],
    private readonly source: TileSource,
    private readonly onFault: (words: string) => void,
  ) {}

  showLayers(on: readonly boolean[]) {
    this.source.showLayers(on);
    // What was drawn with other layers must not stand in for what comes.
    this.shown = null;
  }

  showMarks(on: boolean) {
    this.source.showMarks(on);
    this.shown = null;
  }

  async draw(
    view: View,
    width: number,
    height: number,
    window: { width: number; height: number },
    ratio: number,
    _millimetre: number,
    onBegun: () => void,
  ): Promise<boolean> {
    this.stop.abort();
    const stop = (this.stop = new AbortController());
    const level = this.source.level(view.scale * ratio);
    const wanted = tilesInView(level, this.paper, this.origin, view, width, height);
    this.most = Math.max(LEAST_KEPT, VIEWS_KEPT * wanted.length);
    const context = this.begin(view, width, height, ratio);
    onBegun();
    const missing = wanted.filter((at) => {
      const key = keyOf(level, at);
      const tile = this.kept.get(key);
      if (!tile) return true;
      // Looked at last, given up last.
      this.kept.delete(key);
      this.kept.set(key, tile);
      this.put(context, level, partOf(level, at), tile, view, width, height, ratio);
      return false;
    });
    const inWindow = new Set(
      tilesInView(level, this.paper, this.origin, view, window.width, window.height).map((at) => keyOf(level, at)),
    );
    const seen = missing.filter((at) => inWindow.has(keyOf(level, at)));
    const fetchAll = async (list: TileAt[]) => {
      for (let at = list.shift(); at && !stop.signal.aborted; at = list.shift()) {
        const tile = await this.source.tile(level, at, stop.signal);
        this.keep(keyOf(level, at), tile);
        if (!stop.signal.aborted) this.put(context, level, partOf(level, at), tile, view, width, height, ratio);
      }
    };
    const fetchTiles = (list: TileAt[]) =>
      Promise.all(Array.from({ length: Math.min(AT_ONCE, list.length) }, () => fetchAll(list)));
    const guarded = (work: Promise<unknown>) =>
      work.catch((e: unknown) => {
        if (stop.signal.aborted) return;
        stop.abort();
        this.onFault((e as Error).message);
      });
    // Tiles reach beyond the window, and to draw them costs what lies on them; so what is to be seen of them comes first, and by itself.
    const part =
      seen.length > 0 ? partInView(level, seen, this.paper, this.origin, view, window.width, window.height) : null;
    const drawing = part && this.source.part(level, part, stop.signal);
    let drawn: ImageBitmap | null = null;
    if (drawing) {
      await guarded(
        drawing.then((picture) => {
          drawn = picture;
          if (!stop.signal.aborted) this.put(context, level, part, picture, view, width, height, ratio);
        }),
      );
    } else await guarded(fetchTiles(seen));
    // Room to move in, while what is in the window is being looked at.
    const around = async () => {
      if (part && drawn) await this.cut(level, part, drawn, missing, stop.signal);
      if (!stop.signal.aborted) await fetchTiles(missing.filter((at) => !this.kept.has(keyOf(level, at))));
    };
    void guarded(around());
    return !stop.signal.aborted;
  }

  dispose() {
    this.stop.abort();
    this.source.end();
    for (const tile of this.kept.values()) tile.close();
    this.kept.clear();
  }

  /** Makes the canvas show a view, with what it showed before in its place there. */
  private begin(view: View, width: number, height: number, ratio: number): CanvasRenderingContext2D {
    const { canvas } = this;
    const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
    let before: OffscreenCanvas | null = null;
    if (this.shown && canvas.width > 0) {
      before = new OffscreenCanvas(canvas.width, canvas.height);
      before.getContext("2d")!.drawImage(canvas, 0, 0);
    }
    if (canvas.width !== w) canvas.width = w;
    if (canvas.height !== h) canvas.height = h;
    const context = canvas.getContext("2d")!;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, w, h);
    if (before && this.shown) {
      const k = view.scale / this.shown.scale;
      const x = w / 2 + (this.shown.x - view.x) * view.scale * ratio - (before.width * k) / 2;
      const y = h / 2 + (view.y - this.shown.y) * view.scale * ratio - (before.height * k) / 2;
      context.drawImage(before, x, y, before.width * k, before.height * k);
      // Given back at once: each is as large as the window and more.
      before.width = before.height = 0;
    }
    this.shown = view;
    return context;
  }

  private put(
    context: CanvasRenderingContext2D,
    level: Level,
    part: Part,
    picture: ImageBitmap,
    view: View,
    width: number,
    height: number,
    ratio: number,
  ) {
    const box = partBox(level, part, this.paper, this.origin, view, width, height, ratio);
    // On whole pixels, so that neighbours meet.
    const [x0, y0] = [Math.round(box.x), Math.round(box.y)];
    const [x1, y1] = [Math.round(box.x + box.width), Math.round(box.y + box.height)];
    const isSame = x1 - x0 === picture.width && y1 - y0 === picture.height;
    context.imageSmoothingEnabled = !isSame;
    context.imageSmoothingQuality = "high";
    context.drawImage(picture, x0, y0, x1 - x0, y1 - y0);
  }

  /** Keeps the tiles that lie wholly in a part that was drawn: to draw them by themselves may cost as much again. */
  private async cut(level: Level, part: Part, picture: ImageBitmap, wanted: readonly TileAt[], stop: AbortSignal) {
    try {
      for (const at of wanted) {
        if (stop.aborted) return;
        const { x, y, width, height } = partOf(level, at);
        const [left, top] = [x - part.x, y - part.y];
        if (left < 0 || top < 0 || left + width > part.width || top + height > part.height) continue;
        this.keep(keyOf(level, at), await createImageBitmap(picture, left, top, width, height));
      }
    } finally {
      picture.close();
    }
  }

  private keep(key: string, tile: ImageBitmap) {
    this.kept.get(key)?.close();
    this.kept.delete(key);
    this.kept.set(key, tile);
    for (const [old, oldest] of this.kept) {
      if (this.kept.size <= this.most) break;
      oldest.close();
      this.kept.delete(old);
    }
  }
}

const keyOf = (level: Level, at: TileAt) => `${level.key}/${at.column}/${at.row}`;
