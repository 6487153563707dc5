import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { Freshness, touchedBy, type News, type Shown } from "../../web/src/api/freshness";

const of = (kind: News["kind"], id = "p1", isMine = false): News => ({ kind, id, isMine });
const nowhere: Shown = { isOnDesk: () => false, isOpen: () => false };

beforeEach(() => mock.timers.enable({ apis: ["setTimeout"] }));
afterEach(() => mock.timers.reset());

/** A page that shows what these keys name, and counts what it asks for. */
function page(...keys: (readonly string[])[]) {
  const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } });
  const asked: string[] = [];
  const ends = keys.map((queryKey) => {
    queries.setQueryData(queryKey, {});
    return new QueryObserver(queries, {
      queryKey,
      queryFn: () => {
        asked.push(queryKey.join(" "));
        return Promise.resolve({});
      },
    }).subscribe(() => undefined);
  });
  let now = 0;
  let isHidden = false;
  const freshness = new Freshness(
    queries,
    () => now,
    () => 0.5,
    () => isHidden,
  );
  const pass = async (milliseconds: number) => {
    for (let t = 0; t < milliseconds; t += 50) {
      now += 50;
      mock.timers.tick(50);
      await Promise.resolve();
      await new Promise((done) => setImmediate(done));
    }
  };
  return {
    queries,
    asked,
    freshness,
    pass,
    hide: (on: boolean) => void (isHidden = on),
    end: () => {
      freshness.end();
      ends.forEach((end) => end());
      queries.clear();
    },
  };
}

test("a page asks only for what a change touches, and for its desk when that may look different", () => {
  const keys = (news: News, shown = nowhere) => touchedBy(news, shown).map((k) => k.join(" "));
  assert.ok(keys(of("notes")).includes("package p1"));
  assert.ok(!keys(of("notes")).includes("desk"));
  assert.ok(!keys(of("notes")).includes("documents"));
  assert.ok(keys(of("package", "p1", true)).includes("desk"));
  assert.ok(keys(of("package"), { ...nowhere, isOnDesk: () => true }).includes("counts"));
  assert.ok(!keys(of("package")).includes("overlay"));
  assert.ok(keys(of("package"), { ...nowhere, isOpen: () => true }).includes("overlay"));
  assert.deepEqual(keys(of("overlay", "w1")), ["overlay w1"]);
});

test("what others draw where one looks is asked for as it happens, one answer at a time", async () => {
  const p = page(["overlay", "w1"], ["package", "p1"]);
  p.freshness.hear([of("notes", "p1")]);
  await p.pass(400);
  // The quiet time after another answer does not hold it up; and what changes while it is asked for is asked for again.
  p.freshness.hear([of("overlay", "w1")]);
  p.freshness.hear([of("overlay", "w1"), of("overlay", "w1")]);
  await p.pass(200);
  assert.deepEqual(
    p.asked.filter((k) => k === "overlay w1"),
    ["overlay w1", "overlay w1"],
  );
  await p.pass(500);
  assert.equal(p.asked.filter((k) => k === "overlay w1").length, 2);
  // Where nobody looks, nothing is asked for until somebody does.
  p.hide(true);
  p.freshness.hear([of("overlay", "w1")]);
  await p.pass(5000);
  assert.equal(p.asked.filter((k) => k === "overlay w1").length, 2);
  p.end();
});

test("a storm of changes is asked for at most every two to three seconds, the first at once", async () => {
  const p = page(["package", "p1"], ["desk"], ["document", "other"], ["overlay", "other"], ["sheets", "other"]);
  for (let i = 0; i < 100; i++) {
    p.freshness.hear([of("package", "p1", true), of("package", `p${i}`)]);
    await p.pass(100);
  }
  assert.ok(p.asked.length > 0 && p.asked[0] !== undefined);
  const times = p.asked.filter((k) => k === "package p1").length;
  assert.ok(times >= 3 && times <= 6, `${times} times in ten seconds`);
  assert.equal(p.asked.filter((k) => k === "sheets other").length, 0);
  p.end();
});

test("a page that nobody looks at asks when somebody does", async () => {
  const p = page(["package", "p1"]);
  p.hide(true);
  p.freshness.hear([of("package")]);
  await p.pass(5000);
  assert.deepEqual(p.asked, []);
  p.hide(false);
  p.freshness.hear([]);
  await p.pass(1000);
  assert.deepEqual(p.asked, ["package p1"]);
  p.end();
});

test("an answer under way is not thrown away, and asked for again when it may be of before the change", async () => {
  const p = page();
  let count = 0;
  let answer: (value: object) => void = () => undefined;
  p.queries.setQueryData(["package", "p1"], {});
  const end = new QueryObserver(p.queries, {
    queryKey: ["package", "p1"],
    queryFn: ({ signal }) => {
      count++;
      assert.ok(!signal.aborted);
      return new Promise<object>((done) => (answer = done));
    },
  }).subscribe(() => undefined);
  p.freshness.hear([of("package")]);
  await p.pass(1000);
  assert.equal(count, 1);
  p.freshness.hear([of("package")]);
  await p.pass(8000);
  assert.equal(count, 1, "one at a time");
  answer({ now: 1 });
  await p.pass(4000);
  assert.equal(count, 2);
  answer({ now: 2 });
  await p.pass(5000);
  assert.equal(count, 2);
  end();
  p.end();
});

test("of a list of several pages the first is asked for, as long as the others follow on it", async () => {
  const p = page();
  const asked: string[] = [];
  let border = "b";
  const options = {
    queryKey: ["packages", "all"],
    queryFn: ({ pageParam }: { pageParam: string }) => {
      asked.push(pageParam);
      return Promise.resolve({ rows: [pageParam], next: pageParam === "" ? border : null });
    },
    initialPageParam: "",
    getNextPageParam: (last: { next: string | null }) => last.next ?? undefined,
  };
  await p.queries.fetchInfiniteQuery({ ...options, pages: 2 });
  assert.deepEqual(asked.splice(0), ["", "b"]);
  const { InfiniteQueryObserver } = await import("@tanstack/react-query");
  const end = new InfiniteQueryObserver(p.queries, options).subscribe(() => undefined);
  p.freshness.hear([of("package")]);
  await p.pass(1000);
  assert.deepEqual(asked.splice(0), [""]);
  border = "c";
  p.freshness.hear([of("package")]);
  await p.pass(4000);
  assert.deepEqual(asked, ["", "", "c"]);
  end();
  p.end();
});
