import assert from "node:assert/strict";
import { describe, test } from "node:test";
import type { Point } from "../../web/src/api/types";
import { BoxGrid } from "../../web/src/viewer/snap/grid";
import { NEAR, Snapping, type SnapSource } from "../../web/src/viewer/snap/snap";

/** Random, the same each time. */
function chances(seed: number) {
  let x = seed;
  return () => (x = (Math.imul(x, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

type Line = [x0: number, y0: number, x1: number, y1: number];
type Arc = { centre: Point; major: Point; minor: Point; first: number; last: number };

/** A sheet of whole lines, chords of curves that are no lines of the file, and the curves themselves. */
function sheet(lines: Line[], arcs: Arc[] = [], chords = 64): SnapSource {
  const on = ({ centre, major, minor }: Arc, t: number) => [
    centre.x + major.x * Math.cos(t) + minor.x * Math.sin(t),
    centre.y + major.y * Math.cos(t) + minor.y * Math.sin(t),
  ];
  const cut = arcs.flatMap((arc) =>
    Array.from({ length: chords }, (_, i) => {
      const at = (k: number) => on(arc, arc.first + ((arc.last - arc.first) * k) / chords);
      return [...at(i), ...at(i + 1)] as Line;
    }),
  );
  const all = [...lines, ...cut];
  return {
    segments: Float32Array.from(all.flat()),
    ends: Uint8Array.from(all, (_, i) => (i < lines.length ? 3 : 0)),
    segmentEntity: Uint32Array.from(all, (_, i) => Math.min(i, lines.length)),
    curves: Float32Array.from(
      arcs.flatMap((a) => [a.centre.x, a.centre.y, a.major.x, a.major.y, a.minor.x, a.minor.y, a.first, a.last]),
    ),
    curveEntity: Uint32Array.from(arcs, () => lines.length),
    isArc: Uint8Array.from(arcs, () => 1),
  };
}
const circle = (x: number, y: number, r: number): Arc => ({
  centre: { x, y },
  ...{ major: { x: r, y: 0 }, minor: { x: 0, y: r }, first: 0, last: 2 * Math.PI },
});
const shown = () => true;
const far = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);

test("the boxes near a point are those that looking at every box finds, each once, large and small ones", () => {
  const next = chances(5);
  for (let round = 0; round < 40; round++) {
    const count = Math.floor(next() * 400);
    const boxes = new Float32Array(count * 4);
    for (let i = 0; i < count; i++) {
      const size = 10 ** (next() * 5 - 2);
      const [x, y] = [next() * 1000 - 500, next() * 300];
      boxes.set([x, y, x + size * next(), y + (next() < 0.2 ? 0 : size)], 4 * i);
    }
    const grid = new BoxGrid(boxes);
    for (let k = 0; k < 50; k++) {
      const [x, y, within] = [next() * 1200 - 600, next() * 400 - 50, 10 ** (next() * 3 - 1)];
      const all = [...Array(count).keys()].filter(
        (i) =>
          boxes[4 * i]! <= x + within &&
          boxes[4 * i + 2]! >= x - within &&
          boxes[4 * i + 1]! <= y + within &&
          boxes[4 * i + 3]! >= y - within,
      );
      assert.deepEqual(
        grid.near(x, y, within, 0, 1e6).sort((a, b) => a - b),
        all,
      );
    }
  }
  assert.deepEqual(new BoxGrid(new Float32Array(0)).near(0, 0, 10, 0, 10), []);
});

describe("what is caught near the hand", () => {
  test("ends, middles and crossings of lines, by what lies nearest, and the line itself elsewhere", () => {
    const s = new Snapping(
      sheet([
        [0, 0, 100, 0],
        [50, -50, 50, 30],
        [0, 200, 100, 200],
      ]),
    );
    const first = (x: number, y: number) => s.at({ x, y }, 1, null, shown)[0];
    assert.deepEqual(first(97, 4), { kind: "end", at: { x: 100, y: 0 } });
    assert.deepEqual(first(48, 3)!.at, { x: 50, y: 0 });
    assert.deepEqual(first(52, 198), { kind: "middle", at: { x: 50, y: 200 } });
    assert.deepEqual(first(25, 6), { kind: "on the line", at: { x: 25, y: 0 } });
    assert.equal(first(25, NEAR + 1), undefined);
    // Zoomed in four times, the same place is farther off.
    assert.equal(s.at({ x: 25, y: 6 }, 0.25, null, shown)[0], undefined);
  });

  test("a bolt circle's holes are caught at their true middles, and a circle at its quadrants, not at its chords", () => {
    const holes = Array.from({ length: 12 }, (_, i) =>
      circle(100 + 75 * Math.cos(((i + 0.5) * Math.PI) / 6), 100 + 75 * Math.sin(((i + 0.5) * Math.PI) / 6), 7),
    );
    // Four chords only: far from the circle they stand for.
    const s = new Snapping(sheet([], [...holes, circle(100, 100, 75)], 4));
    for (let i = 0; i < 12; i++) {
      const { x, y } = holes[i]!.centre;
      const [caught] = s.at({ x: x + 0.8, y: y - 0.6 }, 0.3, null, shown);
      assert.equal(caught!.kind, "centre");
      assert.ok(far(caught!.at, { x, y }) < 1e-4);
      const across = s.at(holes[(i + 6) % 12]!.centre, 0.3, null, shown)[0]!;
      assert.ok(Math.abs(far(across.at, caught!.at) - 150) < 1e-4, "the true diameter");
    }
    assert.deepEqual(s.at({ x: 175.5, y: 100.4 }, 0.1, null, shown)[0], {
      kind: "quadrant",
      at: { x: 175, y: 100 },
      centre: { x: 100, y: 100 },
    });
    // On the true circle, though the chord beneath the hand is somewhere else; its middle is the next to be asked for.
    const [on, ...others] = s.at({ x: 100 + 75 * Math.cos(0.3), y: 100 + 75 * Math.sin(0.3) + 0.2 }, 0.1, null, shown);
    assert.equal(on!.kind, "on the line");
    assert.ok(Math.abs(far(on!.at, { x: 100, y: 100 }) - 75) < 1e-4);
    assert.ok(others.some((o) => o.kind === "centre"));
  });

  test("a foot stands at right angles to what it is on, and what touches a circle does so", () => {
    const next = chances(9);
    for (let i = 0; i < 300; i++) {
      const line: Line = [next() * 100, next() * 100, next() * 100, next() * 100];
      const round = circle(300, 300, 10 + next() * 50);
      const s = new Snapping(sheet([line], [round]));
      const from = { x: next() * 150 - 20, y: next() * 150 - 20 };
      const way = { x: line[2] - line[0], y: line[3] - line[1] };
      const t = ((from.x - line[0]) * way.x + (from.y - line[1]) * way.y) / (way.x ** 2 + way.y ** 2);
      if (t > 0.05 && t < 0.95 && Math.abs(t - 0.5) > 0.05) {
        const at = { x: line[0] + t * way.x, y: line[1] + t * way.y };
        const foot = s.at(at, 0.01, from, shown).find((c) => c.kind === "at right angles")!;
        const dot = (foot.at.x - from.x) * way.x + (foot.at.y - from.y) * way.y;
        assert.ok(Math.abs(dot) < 1e-3 * (1 + Math.hypot(way.x, way.y)), `${dot}`);
      }
      const [r, d] = [round.major.x, far(from, round.centre)];
      const turn = Math.atan2(from.y - 300, from.x - 300) + Math.acos(r / d);
      const point = { x: 300 + r * Math.cos(turn), y: 300 + r * Math.sin(turn) };
      const touch = s.at(point, 0.01, from, shown).find((c) => c.kind === "touching")!;
      const dot = (touch.at.x - from.x) * (touch.at.x - 300) + (touch.at.y - from.y) * (touch.at.y - 300);
      assert.ok(Math.abs(dot) < 0.05, `${dot}`);
    }
  });

  test("of a slanting ellipse the nearest point is the nearest; beyond an arc's ends nothing is", () => {
    const next = chances(3);
    for (let i = 0; i < 200; i++) {
      const [a, b, turn] = [20 + next() * 30, 3 + next() * 15, next() * 6];
      const arc: Arc = {
        centre: { x: 5, y: -7 },
        major: { x: a * Math.cos(turn), y: a * Math.sin(turn) },
        minor: { x: -b * Math.sin(turn), y: b * Math.cos(turn) },
        ...{ first: 0, last: 2 * Math.PI },
      };
      const at = (t: number) => ({
        x: 5 + arc.major.x * Math.cos(t) + arc.minor.x * Math.sin(t),
        y: -7 + arc.major.y * Math.cos(t) + arc.minor.y * Math.sin(t),
      });
      const t = next() * 7;
      const p = { x: at(t).x + next() * 0.4 - 0.2, y: at(t).y + next() * 0.4 - 0.2 };
      const all = new Snapping(sheet([], [arc])).at(p, 0.1, null, shown);
      // A quadrant there is told rather than the line through it.
      const on = all.find((c) => c.kind === "on the line") ?? all.find((c) => c.kind === "quadrant")!;
      let least = Infinity;
      for (let k = 0; k < 20_000; k++) least = Math.min(least, far(at((k / 20_000) * 2 * Math.PI), p));
      assert.ok(far(on.at, p) < least + 1e-3, `${far(on.at, p)} against ${least}`);
    }
    const half = { ...circle(0, 0, 10), last: Math.PI };
    const s = new Snapping(sheet([], [half]));
    assert.deepEqual(
      s.at({ x: 0, y: -10 }, 0.1, null, shown).map((c) => c.kind),
      [],
    );
    assert.ok(s.at({ x: 0, y: 10 }, 0.1, null, shown).some((c) => c.kind === "quadrant"));
  });

  test("what is not shown is not caught", () => {
    const s = new Snapping(
      sheet([
        [0, 0, 100, 0],
        [0, 1, 100, 1],
      ]),
    );
    assert.deepEqual(s.at({ x: 99.6, y: 0.4 }, 0.1, null, (e) => e === 1)[0], { kind: "end", at: { x: 100, y: 1 } });
  });

  test("what is caught does not change when the sheet is turned and moved", () => {
    const next = chances(21);
    for (let i = 0; i < 100; i++) {
      const [turn, dx, dy] = [next() * 6, next() * 50, next() * 50];
      const turned = ({ x, y }: Point): Point => ({
        x: x * Math.cos(turn) - y * Math.sin(turn) + dx,
        y: x * Math.sin(turn) + y * Math.cos(turn) + dy,
      });
      const lines = Array.from({ length: 6 }, (): Line => [next() * 40, next() * 40, next() * 40, next() * 40]);
      const there = lines.map(([a, b, c, d]): Line => {
        const [p, q] = [turned({ x: a, y: b }), turned({ x: c, y: d })];
        return [p.x, p.y, q.x, q.y];
      });
      const hand = { x: next() * 40, y: next() * 40 };
      const [was, now] = [
        new Snapping(sheet(lines)).at(hand, 0.3, null, shown)[0],
        new Snapping(sheet(there)).at(turned(hand), 0.3, null, shown)[0],
      ];
      assert.equal(was?.kind, now?.kind);
      if (was && now) assert.ok(far(turned(was.at), now.at) < 1e-3);
    }
  });
});
