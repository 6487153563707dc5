/**
 * Boxes on a sheet, found by where they lie: a grid for each size of box, every cell twice as wide as in the one before, and each box in the grid
 * whose cells are as wide as itself. So a box lies in at most four cells, however long it is, and what is near a point is found in a few dozen
 * cells, however many boxes there are.
 */
export class BoxGrid {
  private readonly starts: Uint32Array;
  private readonly items: Uint32Array;
  private readonly levels: boolean[] = [];
  private readonly least: number;
  private readonly mask: number;

  /** @param boxes least x, least y, greatest x, greatest y of each; one that is turned inside out is left out */
  constructor(private readonly boxes: Float32Array) {
    const count = boxes.length / 4;
    let [left, bottom, right, top] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < boxes.length; i += 4) {
      if (boxes[i]! < left) left = boxes[i]!;
      if (boxes[i + 1]! < bottom) bottom = boxes[i + 1]!;
      if (boxes[i + 2]! > right) right = boxes[i + 2]!;
      if (boxes[i + 3]! > top) top = boxes[i + 3]!;
    }
    // The finest cells hold about one box each, were all of them small and evenly spread.
    // So far from the origin cells are no finer than that their numbers can be told apart.
    const farthest = Math.max(Math.abs(left), Math.abs(right), Math.abs(bottom), Math.abs(top), 1e-9);
    this.least = Math.max(
      Math.max(right - left, top - bottom) / Math.max(1, Math.sqrt(count)),
      (Number.isFinite(farthest) ? farthest : 1) * 1e-6,
    );
    let buckets = 1024;
    while (buckets < count) buckets *= 2;
    this.mask = buckets - 1;
    const starts = (this.starts = new Uint32Array(buckets + 1));
    const each = (i: number, done: (bucket: number) => void) => {
      const [x0, y0, x1, y1] = [boxes[4 * i]!, boxes[4 * i + 1]!, boxes[4 * i + 2]!, boxes[4 * i + 3]!];
      if (!(x0 <= x1 && y0 <= y1)) return;
      const level = this.levelOf(Math.max(x1 - x0, y1 - y0));
      this.levels[level] = true;
      const cell = this.least * 2 ** level;
      for (let x = Math.floor(x0 / cell); x <= Math.floor(x1 / cell); x++)
        for (let y = Math.floor(y0 / cell); y <= Math.floor(y1 / cell); y++) done(this.bucket(level, x, y));
    };
    for (let i = 0; i < count; i++) each(i, (bucket) => starts[bucket + 1]!++);
    for (let b = 0; b < buckets; b++) starts[b + 1]! += starts[b]!;
    const items = (this.items = new Uint32Array(starts[buckets]!));
    const next = starts.slice(0, buckets);
    for (let i = 0; i < count; i++) each(i, (bucket) => (items[next[bucket]!++] = i));
  }

  /**
   * Those that come within a distance of a point, each once, but for boxes too small to be pointed at there.
   * @param small boxes that are smaller than this are passed over
   * @param most no more than these are told
   */
  near(x: number, y: number, within: number, small: number, most: number): number[] {
    const found: number[] = [];
    const seen = new Set<number>();
    for (let level = this.levels.length - 1; level >= 0; level--) {
      const cell = this.least * 2 ** level;
      if (!this.levels[level]) continue;
      if (cell < small) break;
      // Where fewer boxes are than cells would be looked into, each box is looked at.
      if ((2 * within) / cell > Math.sqrt(this.boxes.length)) {
        for (let i = 0; i < this.boxes.length / 4; i++)
          if (this.isNear(i, x, y, within) && !seen.has(i) && found.push(i) >= most) break;
        return found;
      }
      for (let cx = Math.floor((x - within) / cell); cx <= Math.floor((x + within) / cell); cx++)
        for (let cy = Math.floor((y - within) / cell); cy <= Math.floor((y + within) / cell); cy++) {
          const bucket = this.bucket(level, cx, cy);
          for (let k = this.starts[bucket]!; k < this.starts[bucket + 1]!; k++) {
            const i = this.items[k]!;
            if (!this.isNear(i, x, y, within) || seen.has(i)) continue;
            seen.add(i);
            if (found.push(i) >= most) return found;
          }
        }
    }
    return found;
  }

  private isNear(i: number, x: number, y: number, within: number) {
    const b = this.boxes;
    return (
      b[4 * i]! <= b[4 * i + 2]! &&
      b[4 * i]! <= x + within &&
      b[4 * i + 2]! >= x - within &&
      b[4 * i + 1]! <= y + within &&
      b[4 * i + 3]! >= y - within
    );
  }

  private levelOf(size: number) {
    return size <= this.least ? 0 : Math.ceil(Math.log2(size / this.least));
  }

  private bucket(level: number, x: number, y: number) {
    let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(level + 1, 0xc2b2ae35);
    h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
    return (h ^ (h >>> 13)) & this.mask;
  }
}
