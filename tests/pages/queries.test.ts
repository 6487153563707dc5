import assert from "node:assert/strict";
import { test } from "node:test";
import { QueryObserver } from "@tanstack/react-query";
import { Queries } from "../../web/src/api/Queries";

const queryKey = ["wordings"];

/** What is asked for, answered when somebody says with what. */
function slow() {
  const queries = new Queries({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } });
  const answers: ((answer: string) => void)[] = [];
  const queryFn = () => new Promise<string>((answer) => answers.push(answer));
  return { queries, answers, queryFn };
}
const rest = () => new Promise((done) => setTimeout(done, 5));

test("a first answer that was under way when something was done is not taken for what is so afterwards", async () => {
  const { queries, answers, queryFn } = slow();
  const seen: (string | undefined)[] = [];
  const end = new QueryObserver(queries, { queryKey, queryFn }).subscribe((r) => seen.push(r.data));
  assert.equal(answers.length, 1);
  const done = queries.invalidateQueries({ queryKey });
  assert.equal(answers.length, 2);
  answers[0]!("before");
  await rest();
  assert.deepEqual(seen.filter(Boolean), []);
  answers[1]!("after");
  await done;
  assert.equal(queries.getQueryData(queryKey), "after");
  assert.equal(queries.isFetching(), 0);
  // And so it is with the second: that the library sees to.
  const again = queries.invalidateQueries({ queryKey });
  const last = queries.invalidateQueries({ queryKey });
  answers[2]!("still before");
  answers[3]!("last");
  await Promise.all([again, last]);
  assert.equal(queries.getQueryData(queryKey), "last");
  end();
});

test("one that nobody looks at is not asked for again, but is old as it comes", async () => {
  const { queries, answers, queryFn } = slow();
  const first = queries.fetchQuery({ queryKey, queryFn });
  await queries.invalidateQueries({ queryKey });
  assert.equal(answers.length, 1);
  answers[0]!("before");
  assert.equal(await first, "before");
  await rest();
  assert.equal(queries.getQueryState(queryKey)?.isInvalidated, true);
});

test("who wants an answer under way to be used has it used", async () => {
  const { queries, answers, queryFn } = slow();
  const end = new QueryObserver(queries, { queryKey, queryFn }).subscribe(() => undefined);
  const done = queries.invalidateQueries({ queryKey }, { cancelRefetch: false });
  assert.equal(answers.length, 1);
  answers[0]!("one");
  await done;
  assert.equal(queries.getQueryData(queryKey), "one");
  end();
});

test("a part that goes while its first answer is asked for anew leaves nothing waiting", async () => {
  const { queries, answers, queryFn } = slow();
  const end = new QueryObserver(queries, { queryKey, queryFn }).subscribe(() => undefined);
  const done = queries.invalidateQueries({ queryKey });
  end();
  answers[1]!("after");
  await done;
  assert.equal(queries.isFetching(), 0);
});
