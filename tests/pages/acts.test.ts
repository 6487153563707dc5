import assert from "node:assert/strict";
import { test } from "node:test";
import { actsTold } from "../../web/src/notes/acts";

test("a change of the words says what they were; one that left them says what else was changed", () => {
  const act = (act: string, body: string) => ({
    name: "Maren Aas",
    person: "m",
    at: "2026-11-27T09:00:00Z",
    act,
    body,
  });
  const acts = [act("edit", "Longer."), act("edit", "Shorter."), act("reply", "Why?"), act("edit", "Shorter.")];
  assert.deepEqual(
    actsTold({ acts, body: "Much shorter." }).map((a) => [a.told, a.body]),
    [
      ["changed the words, which were", "Longer."],
      ["changed urgency, day or tags", ""],
      ["replied", "Why?"],
      ["changed the words, which were", "Shorter."],
    ],
  );
});
