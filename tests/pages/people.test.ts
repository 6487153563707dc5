import assert from "node:assert/strict";
import { test } from "node:test";
import type { Person } from "../../web/src/api/types";
import { toldApart } from "../../web/src/ui/people";

test("who shares a name is told apart by how they sign in; the others keep theirs", () => {
  const people = [
    ["Anna Berg", "anna"],
    ["Ola Dahl", "ola"],
    ["Anna Berg", "aberg"],
  ].map(([name, login]) => ({ id: login, name, login }) as Person);
  assert.deepEqual(
    toldApart(people).map((p) => p.name),
    ["Anna Berg (anna)", "Ola Dahl", "Anna Berg (aberg)"],
  );
});
