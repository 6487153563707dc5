import { hashKey, type InfiniteData, type Query, type QueryClient, type QueryKey } from "@tanstack/react-query";

/** What the server tells of a change: its kind, what changed, and whether the person's own desk may look different for it. */
export type News = {
  kind:
    | "package"
    | "notes"
    | "here"
    | "document"
    | "overlay"
    | "sheets"
    | "upload"
    | "message"
    | "office"
    | "absence"
    | "plan"
    | "session";
  id: string;
  /** Whether it concerns the person: they sign, answer, advise, sent it or are informed. */
  isMine: boolean;
};

/** The lists that a change of a kind shows in, besides the thing itself. */
const lists: Readonly<Record<News["kind"], readonly string[]>> = {
  package: ["packages", "notes", "ledger", "documents", "document"],
  notes: ["packages", "notes", "ledger"],
  document: ["documents", "ledger"],
  here: [],
  overlay: [],
  sheets: ["ledger"],
  upload: [],
  message: ["messages", "counts"],
  office: ["ledger", "session", "people", "groups", "rights", "folders", "calendars"],
  absence: ["ledger", "absences", "preview", "plan-preview", "desk", "counts"],
  plan: ["plans", "ledger"],
  session: ["session", "sessions"],
};

const ofModels = ["data", "section", "measured", "between", "box", "parts", "found", "beside"];

/** What must be known at once: whether one is still signed in, and how far one's own file is read. */
const urgent: ReadonlySet<News["kind"]> = new Set(["session", "upload"]);

/** What others do where one looks: it is to be seen as it happens. */
const swift: ReadonlySet<News["kind"]> = new Set(["overlay", "here"]);

/** What a page shows of a package now. */
export type Shown = {
  /** Whether it is on the person's desk, from where it may have to go. */
  isOnDesk: (id: string) => boolean;
  /** Whether it lies on the bench, whose overlays may be closed by it. */
  isOpen: (id: string) => boolean;
};

/** The beginnings of the keys of what a change may have made old. */
export function touchedBy({ kind, id, isMine }: News, { isOnDesk, isOpen }: Shown): QueryKey[] {
  const isOfPackage = kind === "package" || kind === "notes";
  return [
    [isOfPackage ? "package" : kind, id],
    ...lists[kind].map((list) => [list]),
    ...(kind === "package" && isOpen(id) ? [["overlay"]] : []),
    // What was reckoned on a model is another when files have come that were missing in it.
    ...(kind === "sheets" ? ofModels.map((of) => [of, id]) : []),
    ...(isOfPackage && (isMine || isOnDesk(id)) ? [["desk"], ["counts"]] : []),
  ];
}

/** The least and the most time between two rounds of asking, in milliseconds; pages do not all ask at once. */
const GAP = 2000;
const SCATTER = 1000;
/** How soon the first change after a quiet time is asked for, at most. */
const SOON = 250;

type Page = { rows: unknown[]; next: string | null };
const isPages = (data: unknown): data is InfiniteData<Page, string> =>
  typeof data === "object" && data !== null && "pages" in data && "pageParams" in data;

/**
 * Asks anew for what a page shows and others changed: only for what a change touches, at most every two to three seconds, of a list
 * of several pages the first alone as long as the others follow on it, and not while nobody looks at the page.
 */
export class Freshness {
  private readonly old = new Map<string, QueryKey>();
  /** What is asked for as it changes, and what of it changed meanwhile. */
  private readonly asking = new Set<string>();
  private readonly again = new Set<string>();
  private isEnded = false;
  private everything = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private last = -Infinity;

  constructor(
    private readonly queries: QueryClient,
    private readonly now: () => number = () => performance.now(),
    private readonly chance: () => number = Math.random,
    private readonly isHidden: () => boolean = () => document.visibilityState === "hidden",
  ) {
    if (typeof document !== "undefined") document.addEventListener("visibilitychange", this.seen);
  }

  hear(news: readonly News[]) {
    for (const one of news) {
      const keys = touchedBy(one, this.shown);
      if (urgent.has(one.kind)) for (const queryKey of keys) void this.queries.invalidateQueries({ queryKey });
      else if (swift.has(one.kind)) for (const key of keys) this.askSwiftly(key);
      else for (const key of keys) this.old.set(hashKey(key), key);
    }
    this.wait();
  }

  hearEverything() {
    this.everything = true;
    this.wait();
  }

  end() {
    this.isEnded = true;
    if (this.timer !== null) clearTimeout(this.timer);
    if (typeof document !== "undefined") document.removeEventListener("visibilitychange", this.seen);
  }

  private readonly seen = () => this.wait();

  private readonly shown: Shown = {
    isOnDesk: (id) => {
      const desk = this.queries.getQueryData<Record<string, unknown>>(["desk"]);
      return Object.values(desk ?? {}).some(
        (group) => Array.isArray(group) && group.some((row: { id?: unknown } | null) => row?.id === id),
      );
    },
    isOpen: (id) => this.queries.getQueryData(["package", id]) !== undefined,
  };

  /** One answer at a time, and the next no sooner than twice what the last took: a sheet with ten thousand markups is not asked for without end. */
  private askSwiftly(queryKey: QueryKey) {
    const query = this.queries.getQueryCache().find({ queryKey, exact: true });
    const hash = hashKey(queryKey);
    if (this.isEnded) return;
    if (!query?.isActive() || this.isHidden()) {
      this.old.set(hash, queryKey);
      return;
    }
    // An answer under way may be of before the change.
    if (query.state.fetchStatus === "fetching") this.again.add(hash);
    if (this.asking.has(hash)) {
      this.again.add(hash);
      return;
    }
    this.asking.add(hash);
    const from = this.now();
    const rest = () => {
      setTimeout(
        () => {
          this.asking.delete(hash);
          if (this.again.delete(hash)) this.askSwiftly(queryKey);
        },
        2 * (this.now() - from),
      );
    };
    this.queries.invalidateQueries({ queryKey, exact: true }, { cancelRefetch: false }).then(rest, rest);
  }

  private wait() {
    if (this.timer !== null || (this.old.size === 0 && !this.everything) || this.isHidden()) return;
    const gap = this.last + GAP + SCATTER * this.chance() - this.now();
    this.timer = setTimeout(() => this.ask(), Math.max(SOON * this.chance(), gap));
  }

  private ask() {
    this.timer = null;
    const keys = this.everything ? [[]] : [...this.old.values()];
    this.old.clear();
    this.everything = false;
    this.last = this.now();
    const asked = new Set<Query>();
    for (const queryKey of keys)
      for (const query of this.queries.getQueryCache().findAll({ queryKey })) asked.add(query);
    for (const query of asked) void this.askFor(query).catch(() => undefined);
    this.wait();
  }

  private async askFor(query: Query): Promise<void> {
    // An answer under way is not thrown away; it may be of before the change, so it is asked for again in the next round.
    if (query.state.fetchStatus === "fetching") {
      this.old.set(query.queryHash, query.queryKey);
      return;
    }
    if (query.isActive() && isPages(query.state.data) && query.state.data.pages.length > 1) {
      if (await this.refreshFirst(query, query.state.data)) return;
    }
    await this.queries.invalidateQueries({ queryKey: query.queryKey, exact: true }, { cancelRefetch: false });
  }

  /** Fetches the first page of a list of several; gives whether the others still follow on it. */
  private async refreshFirst(query: Query, before: InfiniteData<Page, string>): Promise<boolean> {
    const fetch = query.options.queryFn;
    if (typeof fetch !== "function") return false;
    const first = (await fetch({
      client: this.queries,
      queryKey: query.queryKey,
      pageParam: before.pageParams[0],
      direction: "forward",
      signal: new AbortController().signal,
      meta: query.meta,
    } as never)) as Page;
    if (first.next !== before.pages[0]!.next) return false;
    this.queries.setQueryData(query.queryKey, { ...before, pages: [first, ...before.pages.slice(1)] });
    return true;
  }
}
