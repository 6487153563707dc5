import { useQuery } from "@tanstack/react-query";
import { BookmarkPlus } from "lucide-react";
import { useCallback, useMemo, useRef, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { Awaited, isFirstAwaited } from "../ui/Awaited";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { stepsOf, type PackageRow, planOf } from "../api/types";
import { useCommands } from "../commands/registry";
import { placeOfPin, usePins } from "../kept/PinButton";
import { pinsQuery } from "../kept/pinsQuery";
import { isFound, useListing } from "../lists/listing";
import { trigger } from "../lists/looks";
import { SearchBox } from "../lists/SearchBox";
import { Empty } from "../ui/kit";
import { lazyPart } from "../ui/lazyPart";
import { deskQuery } from "./deskQuery";
import { DeskRow } from "./DeskRow";
import { SignManyBar } from "./SignMany";
import { Summary } from "./Summary";
import { todayWords, when } from "../ui/time";

const Views = lazyPart(async () => (await import("../lists/Views")).Views<PackageRow>);

type Group = { words: string; rows: PackageRow[]; isCut: boolean };

/** What is listed of a group that holds more. */
const cutWords: Record<string, string> = {
  "To sign": "Only those due first are listed; others follow as these are signed.",
  "To answer": "Only those that came back first are listed; others follow as these are answered.",
  "For your advice": "Only those asked first are listed; others follow as these are answered.",
  "Waiting for others": "Only those due first are listed.",
  "For information": "Only the latest are listed.",
};

/** Rows in the order asked for; without one as they come: what is due first. */
function ordered(rows: readonly PackageRow[], order: string): PackageRow[] {
  if (order === "newest") return [...rows].sort((a, b) => b.roundAt.localeCompare(a.roundAt));
  if (order === "number") return [...rows].sort((a, b) => a.number.localeCompare(b.number, "en", { numeric: true }));
  return [...rows];
}

function why(row: PackageRow, group: string, me: string): string {
  const items = `${row.items} ${row.items === 1 ? "item" : "items"}`;
  const requests =
    row.openRequests > 0 ? `, ${row.openRequests} open ${row.openRequests === 1 ? "request" : "requests"}` : "";
  if (group === "To answer" && row.standing === "in review")
    return `Signed; what was noted waits for your answer · ${items}`;
  if (group === "To answer")
    return `Came back with ${row.openRequests} ${row.openRequests === 1 ? "request" : "requests"} to answer · ${items}`;
  if (group === "For your advice") return `Somebody asks what you think · ${items}`;
  if (row.standing === "released") return `Released · ${items}`;
  const step = stepsOf(planOf(row.slip)).find((s) => s.key === row.step);
  if (group === "To sign" && row.mustAgree.includes(me))
    return `You and another signer picked different ways: agree, or take your signature back · ${items}`;
  if (group === "To sign") return `${step?.instruction ?? row.coveringNote} · ${items}${requests}`;
  return `${row.originator === me ? "You sent it" : row.coveringNote}${row.waitsAt ? ` · at ${row.waitsAt}` : ""} · ${items}${requests}`;
}

/** @param onLikely called when it is likely that a package will be opened */
export function Desk({ onLikely }: { onLikely: () => void }) {
  const me = useMe();
  const navigate = useNavigate();
  const desk = useQuery(deskQuery);
  // What is pinned stands above the rest: nothing is shown that it would push down.
  const isPinnedComing = isFirstAwaited(useQuery(pinsQuery));
  const data = isPinnedComing ? undefined : desk.data;
  const listing = useListing<PackageRow>([], "");
  const words = listing.get("search");
  const [only, order] = [listing.get("group"), listing.get("order")];
  const groups = useMemo<Group[]>(
    () =>
      data
        ? [
            { words: "To sign", rows: data.toSign, isCut: data.cut.includes("toSign") },
            { words: "To answer", rows: data.toAnswer, isCut: data.cut.includes("toAnswer") },
            { words: "For your advice", rows: data.toAdvise, isCut: data.cut.includes("toAdvise") },
            { words: "Waiting for others", rows: data.waiting, isCut: data.cut.includes("waiting") },
            { words: "For information", rows: data.informed, isCut: data.cut.includes("informed") },
          ]
            .map((g) => ({
              ...g,
              rows: ordered(
                g.rows.filter((r) => isFound(words, r.number, r.title, r.originatorName, r.firstNumber, r.changeOrder)),
                order,
              ),
            }))
            .filter((g) => g.rows.length > 0 && (only === "" || g.words === only))
        : [],
    [data, words, only, order],
  );
  const rows = useMemo(() => groups.flatMap((g) => g.rows), [groups]);
  const [picked, setPicked] = useState<string | null>(null);
  const current = rows.find((r) => r.id === picked) ?? rows[0];
  /** On a narrow window the row in focus is read over the list, when it was pressed. */
  const [isReading, setReading] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const read = useCallback((id: string) => {
    setPicked(id);
    setReading(true);
  }, []);
  const open = useCallback((id: string) => void navigate(`/packages/${id}`), [navigate]);

  const goTo = (row: PackageRow | undefined) =>
    row
      ? () => {
          setPicked(row.id);
          list.current?.querySelector<HTMLElement>(`[data-row="${row.id}"]`)?.focus();
        }
      : null;
  const at = rows.findIndex((r) => r.id === current?.id);
  useCommands("Desk", "desk", [
    { id: "first", words: "First package", keys: [{ key: "Home" }, { key: "g" }], run: goTo(rows[0]) },
    { id: "next", words: "Next package", keys: [{ key: "ArrowDown" }, { key: "j" }], run: goTo(rows[at + 1]) },
    { id: "last", words: "Package before", keys: [{ key: "ArrowUp" }, { key: "k" }], run: goTo(rows[at - 1]) },
    {
      id: "open",
      words: "Open the package on the bench",
      keys: [{ key: "Enter" }],
      // Buttons and links answer to it by themselves.
      leftTo: "a, button, summary, input",
      run: current ? () => open(current.id) : null,
    },
  ]);

  // What views are made of comes when it is asked for: most look at their desk as it is.
  const [isViewing, setViewing] = useState(false);
  const viewsButton = (
    <button type="button" className={trigger} onClick={() => setViewing(true)}>
      <BookmarkPlus size={15} className="shrink-0" /> Views
    </button>
  );
  const says = (useLocation().state as { says?: string } | null)?.says;
  return (
    <>
      <PlaceBar title="Desk" beside={todayWords()}>
        <select
          className="field !w-auto"
          aria-label="What is asked"
          value={only}
          onChange={(e) => listing.set({ group: e.target.value })}
        >
          <option value="">everything</option>
          {Object.keys(cutWords).map((group) => (
            <option key={group} value={group}>
              {group.toLowerCase()}
            </option>
          ))}
        </select>
        <select
          className="field !w-auto"
          aria-label="Order"
          value={order}
          onChange={(e) => listing.set({ order: e.target.value })}
        >
          <option value="">due first</option>
          <option value="newest">newest first</option>
          <option value="number">by number</option>
        </select>
        {isViewing ? (
          <Views listing={listing} list="desk" isOpen coming={viewsButton} onFailed={() => setViewing(false)} />
        ) : (
          viewsButton
        )}
        <SearchBox listing={listing} label="Find on the desk" hint="Number, title or person" />
      </PlaceBar>
      <main className="flex min-h-0 flex-1 flex-col" data-keys="desk">
        {says && (
          <p role="status" className="border-b border-rule bg-spruce-soft px-4 py-1.5">
            {says}
          </p>
        )}
        <Awaited what="the desk" of={{ data, error: desk.error }} />
        <PinnedLine />
        {data && data.prepared.length > 0 && (
          <section aria-label="Put aside" className="border-b border-rule px-4 py-2">
            <h2 className="label inline">Put aside · {data.prepared.length}</h2>
            {data.prepared.map((p) => (
              <Link
                key={p.id}
                to={`/send?prepared=${p.id}`}
                className="ml-3 inline-flex max-w-96 items-baseline gap-2 underline"
                title={p.because}
              >
                <span className="truncate">{p.title || "No title yet"}</span>
                <span className="shrink-0 text-sm text-soft">{when(p.at)}</span>
              </Link>
            ))}
          </section>
        )}
        {data && rows.length === 0 && (words.trim() !== "" || only !== "") && (
          <Empty title="No package on your desk fits">
            Look for a part of a number, a title or a name; everything else is in the{" "}
            <Link className="underline" to="/register">
              register
            </Link>
            .
          </Empty>
        )}
        {data && rows.length === 0 && words.trim() === "" && only === "" && (
          <Empty title="Nothing waits for you">
            {me.canSend ? (
              <>
                <Link className="underline" to="/send">
                  Send a package
                </Link>{" "}
                or look at what is released in the{" "}
              </>
            ) : (
              "Look at what is released in the "
            )}
            <Link className="underline" to="/register">
              register
            </Link>
            .
          </Empty>
        )}
        {rows.length > 0 && (
          <div className="flex min-h-0 flex-1">
            <div
              ref={list}
              id="list"
              className="min-w-0 flex-1 overflow-y-auto pb-8"
              onPointerEnter={onLikely}
              onFocus={onLikely}
            >
              {groups.map((g) => (
                <section key={g.words} aria-label={g.words}>
                  <h2 className="label px-4 pt-4 pb-1.5">
                    {g.words} · {g.rows.length}
                    {g.isCut && "+"}
                  </h2>
                  {g.words === "To sign" && (
                    <SignManyBar rows={g.rows} opened={data?.opened ?? []} seen={data?.seen ?? []} />
                  )}
                  <ul>
                    {g.rows.map((row) => (
                      <DeskRow
                        key={row.id}
                        row={row}
                        words={why(row, g.words, me.id)}
                        me={me}
                        isCurrent={row.id === current?.id}
                        onPick={setPicked}
                        onRead={read}
                        onOpen={open}
                      />
                    ))}
                  </ul>
                  {g.isCut && (
                    <p className="px-4 py-2 text-sm text-soft">
                      {cutWords[g.words]}{" "}
                      {!me.isGuest && (
                        <>
                          All are under{" "}
                          <Link className="underline" to={`/turnaround?person=${me.id}`}>
                            Turnaround
                          </Link>
                          .
                        </>
                      )}
                    </p>
                  )}
                </section>
              ))}
            </div>
            {current && (
              <Summary
                key={current.id}
                id={current.id}
                isOver={isReading}
                onClose={() => {
                  setReading(false);
                  list.current?.querySelector<HTMLElement>(`[data-row="${current.id}"]`)?.focus();
                }}
              />
            )}
          </div>
        )}
      </main>
    </>
  );
}

/** What one wants at hand, whatever is asked today. */
function PinnedLine() {
  const pins = usePins();
  if (pins.length === 0) return null;
  return (
    <section aria-label="Pinned" className="flex items-baseline gap-3 border-b border-rule px-4 py-2">
      <h2 className="label shrink-0">Pinned · {pins.length}</h2>
      <ul className="flex min-w-0 flex-wrap gap-x-4">
        {pins.map((p) => (
          <li key={p.id} className="max-w-80">
            <Link to={placeOfPin(p)} className="flex items-baseline gap-2 hover:underline" title={p.title}>
              <span className="shrink-0 font-mono text-sm">{p.number}</span>
              <span className="truncate">{p.title}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
