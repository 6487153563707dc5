import assert from "node:assert/strict";
import { test } from "node:test";
import { isShownBy, unseenPath } from "../../web/src/viewer/seen/patches";
import { SeenTelling } from "../../web/src/viewer/seen/telling";

test("what was not seen is one piece for neighbours of a row, and ends at the sheet's edge", () => {
  // Three and a half patches wide, one and a quarter high.
  assert.equal(unseenPath(4, 2, "11021011", 3.5, 1.25), "M0 0H2V1H0zM0 1H1V1.25H0zM2 1H3.5V1.25H2z");
  assert.equal(unseenPath(2, 1, "02", 2, 1), "");
});

test("what was shown as large or larger before is not told again", () => {
  const view = (left: number, bottom: number, right: number, top: number, scale: number) => ({
    area: { left, bottom, right, top },
    scale,
  });
  const before = view(0, 0, 10, 10, 2);
  assert.ok(isShownBy(view(0, 0, 10, 10, 2), before));
  assert.ok(isShownBy(view(1, 1, 9, 9, 1), before));
  assert.ok(!isShownBy(view(1, 1, 9, 9, 3), before));
  for (const beyond of [view(-1, 1, 9, 9, 1), view(1, -1, 9, 9, 1), view(1, 1, 11, 9, 1), view(1, 1, 9, 11, 1)])
    assert.ok(!isShownBy(beyond, before));
});

const at = (left: number) => ({ area: { left, bottom: 0, right: left + 10, top: 10 }, scale: 1 });

test("what could not be told is told again after a while, once, with what came since", async () => {
  const posts: number[][] = [];
  let isDead = true;
  const telling = new SeenTelling(
    (views) => {
      posts.push(views.map((v) => v.area.left));
      return isDead ? Promise.reject(new Error("dead")) : Promise.resolve();
    },
    () => posts.length < 3,
    1000,
  );
  telling.add(at(1));
  await pause(5);
  telling.add(at(100));
  telling.add(at(200));
  telling.add(at(100));
  await pause(10);
  // Nobody knocks at a dead line for each of them.
  assert.deepEqual(posts, [[1]]);
  isDead = false;
  await pause(2500);
  assert.deepEqual(posts, [[1], [1, 100, 200]]);
  assert.equal(posts.length, 2);
});

test("one request is under way at a time, and what is refused for good is let go", async () => {
  const posts: number[][] = [];
  const ends: (() => void)[] = [];
  const telling = new SeenTelling(
    (views) => {
      posts.push(views.map((v) => v.area.left));
      return new Promise((resolve, reject) => ends.push(posts.length === 1 ? () => reject(new Error("no")) : resolve));
    },
    () => false,
    5,
  );
  for (const left of [1, 100, 200]) telling.add(at(left));
  assert.deepEqual(posts, [[1]]);
  ends[0]!();
  await pause(5);
  assert.deepEqual(posts, [[1], [100, 200]]);
  ends[1]!();
  await pause(20);
  assert.equal(posts.length, 2);
});

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
