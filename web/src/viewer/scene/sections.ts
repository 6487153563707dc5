import { dot, lengthOf, minus, times, type V3 } from "../camera/eye";

/** A plane that cuts the model, as somebody has set it: what lies on the side that it points to is taken away. */
export type SectionPlane = {
  id: string;
  name: string;
  /** Of length 1, in the model. */
  along: V3;
  /** How far along that it stands from the model's origin. */
  at: number;
  /** How much behind it is left; null for all. */
  thickness: number | null;
  isOn: boolean;
};

/** A side of a plane: what lies before it is taken away. */
export type Cutting = { along: V3; at: number };

/** What cuts: each section that is on by its plane, and a slice by its back as well. */
export const cuttingOf = (sections: readonly SectionPlane[]): Cutting[] =>
  sections.flatMap(({ along, at, thickness, isOn }) =>
    isOn ? [{ along, at }, ...(thickness === null ? [] : [{ along: times(-1, along), at: -(at - thickness) }])] : [],
  );

/** How far a point lies before a plane, on the side that is taken away. */
export const before = (p: V3, { along, at }: Cutting) => dot(p, along) - at;

/** The same plane with its other side taken away; of a slice the same slice from behind. */
export const flipped = (s: SectionPlane): SectionPlane => ({
  ...s,
  along: times(-1, s.along),
  at: -(s.at - (s.thickness ?? 0)),
});

/** How far a plane of a direction can be moved so that it meets a box: least and greatest. */
export function rangeOf(along: V3, box: readonly number[]): [number, number] {
  let [least, greatest] = [0, 0];
  along.forEach((a, k) => {
    const [low, high] = [a * box[k]!, a * box[k + 3]!];
    least += Math.min(low, high);
    greatest += Math.max(low, high);
  });
  return [least, greatest];
}

const axes: readonly (readonly [V3, string])[] = [
  [[1, 0, 0], "Across x"],
  [[0, -1, 0], "Across y"],
  [[0, 0, 1], "Across z"],
];
export type AcrossAxis = 0 | 1 | 2;

/** A name that none of some has yet: A, B, C … as sections are lettered on drawings (ISO 128-3). */
export function nextName(names: readonly string[]): string {
  for (let i = 0; ; i++) {
    const letter = String.fromCharCode(65 + (i % 26)) + (i < 26 ? "" : String(Math.floor(i / 26)));
    const name = `${letter}–${letter}`;
    if (!names.includes(name)) return name;
  }
}

/** The same sections, of which only some planes cut; those that are not among them come besides. */
export function turnedTo(
  all: readonly SectionPlane[],
  planes: readonly (Cutting & { thickness: number | null })[],
  newId: () => string,
): SectionPlane[] {
  const isSame = (a: Cutting & { thickness: number | null }, b: typeof a) =>
    a.at === b.at && a.thickness === b.thickness && a.along.every((n, k) => n === b.along[k]);
  const turned = all.map((s) => ({ ...s, isOn: planes.some((p) => isSame(p, s)) }));
  for (const p of planes)
    if (!all.some((s) => isSame(p, s)))
      turned.push({ ...p, id: newId(), name: nextName(turned.map((s) => s.name)), isOn: true });
  return turned;
}

/** The axis that a plane stands across, and whether it points along it or against it; null for an oblique one. */
export function axisOf(along: V3): { axis: AcrossAxis; sign: 1 | -1 } | null {
  const axis = along.findIndex((n) => Math.abs(n) > 0.9999995);
  return axis < 0 ? null : { axis: axis as AcrossAxis, sign: along[axis]! > 0 ? 1 : -1 };
}

/** A plane across an axis through the middle of a box, seen as the drawing trade sees it: from the right, the front, or above. */
export function acrossAxis(axis: AcrossAxis, box: readonly number[]): Cutting {
  const [along] = axes[axis]!;
  const [least, greatest] = rangeOf(along, box);
  return { along, at: (least + greatest) / 2 };
}

/** The plane through three points, pointing to an eye; null where they lie in a line. */
export function throughPoints([a, b, c]: readonly [V3, V3, V3], back: V3): Cutting | null {
  const [u, v] = [minus(b, a), minus(c, a)];
  const square: V3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const long = lengthOf(square);
  if (!(long > 1e-9 * lengthOf(u) * lengthOf(v)) || long === 0) return null;
  const along = times((dot(square, back) < 0 ? -1 : 1) / long, square);
  return { along, at: dot(a, along) };
}

/** The stretch of a ray that lies in what is left: how far along it enters and leaves; null where it misses it. */
export function stretchOf(from: V3, along: V3, cutting: readonly Cutting[]): [number, number] | null {
  let [near, far] = [0, Infinity];
  for (const plane of cutting) {
    const [away, toward] = [before(from, plane), dot(along, plane.along)];
    if (Math.abs(toward) < 1e-12) {
      if (away > 0) return null;
    } else if (toward < 0) near = Math.max(near, -away / toward);
    else far = Math.min(far, -away / toward);
  }
  return near < far ? [near, far] : null;
}

/** Numbers and stretches of them, as 3,7-12. */
export function stretchWords(numbers: Iterable<number>): string {
  const words: string[] = [];
  let [first, last] = [-2, -2];
  const say = () => first >= 0 && words.push(first === last ? String(first) : `${first}-${last}`);
  for (const n of [...numbers].sort((a, b) => a - b)) {
    if (n > last + 1) {
      say();
      first = n;
    }
    last = n;
  }
  say();
  return words.join(",");
}

/** Which way a plane points, in words where it stands across an axis. */
export function acrossWords(along: V3): string {
  const across = axisOf(along);
  return across ? axes[across.axis]![1] : "Oblique";
}

/** What is asked of the server for a plane. */
export const askedOf = ({ along: [x, y, z], at }: Cutting, without: string) => ({
  ...{ x: String(x), y: String(y), z: String(z), at: String(at) },
  without,
});
