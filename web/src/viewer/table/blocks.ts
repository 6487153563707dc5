import { steadily } from "../../api/again";
import { api } from "../../api/client";
import type { TableRow } from "../../api/types";

/** Most blocks kept; those not looked at for longest go first. */
const MOST = 60;

/** The cells of a table as they are looked at, some hundred rows at a time. */
export class TableBlocks {
  private readonly blocks = new Map<number, Map<number, TableRow> | null>();
  private readonly listeners = new Set<() => void>();
  private count = 0;
  /** What went wrong last; empty when all is well. */
  fault = "";

  constructor(
    private readonly draft: string,
    private readonly leaf: number,
    private readonly rowsInBlock: number,
  ) {}

  /** The row; undefined while it is not here, or when nothing stands in it. */
  row(row: number): TableRow | undefined {
    return this.blocks.get(Math.floor(row / this.rowsInBlock))?.get(row);
  }

  /** Sees to it that rows come. */
  want(from: number, to: number) {
    for (let b = Math.floor(from / this.rowsInBlock); b <= Math.floor(to / this.rowsInBlock); b++) {
      const known = this.blocks.get(b);
      if (known === undefined) void this.fetch(b);
      else {
        this.blocks.delete(b);
        this.blocks.set(b, known);
      }
    }
  }

  /** Rows of blocks that are here or have been asked for; waits until they have come. */
  async rows(from: number, to: number): Promise<(TableRow | undefined)[]> {
    const rows: (TableRow | undefined)[] = [];
    for (let row = from; row <= to; row++) {
      const block = Math.floor(row / this.rowsInBlock);
      if (!this.blocks.get(block)) await this.fetch(block);
      rows.push(this.row(row));
    }
    return rows;
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly changes = () => this.count;

  private async fetch(block: number) {
    this.blocks.set(block, null);
    try {
      const address = `/drafts/${this.draft}/leaves/${this.leaf}/cells/${block}` as const;
      const { rows } = await steadily(() => api.get(address), new AbortController().signal);
      this.blocks.set(block, new Map(rows.map((r) => [r.row, r])));
      this.fault = "";
    } catch (e) {
      // Rows beyond the last block hold nothing.
      if ((e as { status?: number }).status === 404) this.blocks.set(block, new Map());
      else {
        this.blocks.delete(block);
        this.fault = (e as Error).message;
      }
    }
    for (const old of [...this.blocks.keys()].slice(0, Math.max(0, this.blocks.size - MOST))) this.blocks.delete(old);
    this.count++;
    for (const listener of this.listeners) listener();
  }
}
