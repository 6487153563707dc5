/** Where the bench's sheet lies in a window, in CSS pixels from its top left corner. */
export type Pane = { left: number; top: number; width: number; height: number };

/** Under what name a browser keeps it. */
const KEPT = "froe.bench pane";

/** Where it lay in windows of the size that was had last, by what that depends on. A browser that keeps nothing knows none. */
export function keptPanes(): Readonly<Record<string, Pane | undefined>> {
  try {
    return (JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Record<string, Pane | undefined> | null) ?? {};
  } catch {
    return {};
  }
}

export function keepPanes(panes: Readonly<Record<string, Pane | undefined>>): void {
  try {
    localStorage.setItem(KEPT, JSON.stringify(panes));
  } catch {
    // A picture is shown early or not.
  }
}
