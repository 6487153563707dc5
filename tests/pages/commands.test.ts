import assert from "node:assert/strict";
import { test } from "node:test";
import { isPressed, keyWords, type Press } from "../../web/src/commands/keys";
import { commandFor, innermostFirst, type CommandSet, type Reach, type Target } from "../../web/src/commands/registry";

const press = (key: string, code: string, held: Partial<Press> = {}): Press => ({
  key,
  code,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...held,
});
/** An element that lies in what these selectors name. */
const lyingIn = (...kinds: string[]): Target => ({
  closest: (selector) => (kinds.some((k) => selector.includes(k)) ? {} : null),
});

test("letters go by what is printed on the key, whatever Caps Lock and the layout of Latin keyboards", () => {
  assert.ok(isPressed(press("c", "KeyC"), { key: "c" }));
  assert.ok(isPressed(press("C", "KeyC"), { key: "c" }), "Caps Lock");
  // A layout on which C is printed where others have J.
  assert.ok(isPressed(press("c", "KeyJ"), { key: "c" }));
  assert.ok(!isPressed(press("j", "KeyC"), { key: "c" }));
});

test("where the layout is not Latin, letters go by where the key lies", () => {
  assert.ok(isPressed(press("с", "KeyC"), { key: "c" }), "Cyrillic");
  assert.ok(isPressed(press("ψ", "KeyC"), { key: "c" }), "Greek");
  assert.ok(!isPressed(press("с", "KeyV"), { key: "c" }));
});

test("digits are digits on layouts that give them with Shift only, and on the number pad", () => {
  assert.ok(isPressed(press("&", "Digit1"), { key: "1" }));
  assert.ok(isPressed(press("1", "Digit1", { shiftKey: true }), { key: "1" }));
  assert.ok(isPressed(press("1", "Numpad1"), { key: "1" }));
  assert.ok(!isPressed(press("!", "Digit1", { shiftKey: true }), { key: "1" }));
});

test("a key with Ctrl is another, Cmd is the same, Alt is nobody's", () => {
  assert.ok(!isPressed(press("z", "KeyZ", { ctrlKey: true }), { key: "z" }));
  assert.ok(isPressed(press("z", "KeyZ", { metaKey: true }), { key: "z", ctrl: true }));
  assert.ok(!isPressed(press("Z", "KeyZ", { ctrlKey: true, shiftKey: true }), { key: "z", ctrl: true, shift: false }));
  assert.ok(!isPressed(press("c", "KeyC", { altKey: true }), { key: "c" }));
  assert.equal(keyWords({ key: "z", ctrl: true, shift: true }), "Ctrl Shift Z");
});

test("a place's keys act when the place has them, never where one types, chooses, or under a sheet", () => {
  const done: string[] = [];
  const set = (place: string, within: string | null, key: string, more = {}): CommandSet => ({
    place,
    reach: within === null ? "house" : "place",
    within,
    commands: [{ id: key, words: key, keys: [{ key }], run: () => done.push(`${place} ${key}`), ...more }],
  });
  const all = [set("Plan", "plan", "a"), set("Everywhere", null, "a"), set("Everywhere", null, "b")];
  const asked = (key: string, target: Target | null, isCovered = false) =>
    commandFor(all, press(key, `Key${key.toUpperCase()}`), target, isCovered);
  const run = (...of: Parameters<typeof asked>) => {
    done.length = 0;
    asked(...of)?.run?.();
    return done.join();
  };
  assert.equal(run("a", null), "Plan a", "the page itself");
  assert.equal(run("a", lyingIn("plan")), "Plan a");
  assert.equal(run("a", lyingIn()), "Everywhere a", "beside the plan");
  for (const kind of ["textarea", "select", "contenteditable", "role=menu", "role=listbox", "role=dialog"])
    assert.equal(run("a", lyingIn("plan", kind)), "", kind);
  assert.equal(run("b", lyingIn("plan"), true), "", "a sheet lies over the page");
});

test("what cannot be done now is not done, what is only told is left alone, and a part may keep its keys", () => {
  const set = (command: object): CommandSet[] => [
    {
      place: "Bench",
      reach: "place",
      within: null,
      commands: [{ id: "x", words: "x", keys: [{ key: "x" }], run: () => 0, ...command }],
    },
  ];
  const is = (command: object, target: Target | null = null, isCovered = false) =>
    commandFor(set(command), press("x", "KeyX"), target, isCovered) !== null;
  assert.ok(is({}));
  assert.ok(!is({ run: null }));
  assert.ok(!is({ isTold: true }));
  assert.ok(!is({ leftTo: "[data-scrolls]" }, lyingIn("data-scrolls")));
  assert.ok(is({ evenTyping: true }, lyingIn("textarea"), true));
});

test("a part comes before its place and the place before the house, in whatever order they came", () => {
  const set = (place: string, reach: Reach): CommandSet => ({ place, reach, within: null, commands: [] });
  const [house, bench, words] = [set("Everywhere", "house"), set("Bench", "place"), set("Words", "part")];
  for (const came of [
    [house, bench, words],
    [words, bench, house],
    [bench, house, words],
  ])
    assert.deepEqual(
      innermostFirst(came).map((s) => s.place),
      ["Words", "Bench", "Everywhere"],
    );
  // Of two parts the one that was opened last.
  assert.deepEqual(innermostFirst([words, set("Model", "part")])[0]?.place, "Model");
});
