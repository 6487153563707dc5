import { sectionsOf } from "../surface/preparedSheet";
import type { SnapSource } from "./snap";

/** What can be caught on a sheet, with where its offsets count from and the layer of each entity. */
export type SheetSource = SnapSource & { origin: [number, number]; layerOf: (entity: number) => number };

const CURVE = 10;

/** Reads it out of the sheet's two prepared forms (PreparedSheet.cs). Throws where they are of an earlier version. */
export function readSource(geometry: ArrayBuffer, details: ArrayBuffer): SheetSource {
  const [drawn, told] = [sectionsOf(geometry), sectionsOf(details)];
  const head = drawn("HEAD");
  const { origin, styles } = JSON.parse(new TextDecoder().decode(new Uint8Array(geometry, head.at, head.length))) as {
    origin: [number, number];
    styles: [layer: number, rgb: number, weight: number][];
  };
  const [strokes, entities, style] = [drawn("STRK"), drawn("STRE"), drawn("STYL")];
  const [ends, curv] = [told("SNAP"), told("CURV")];
  const styleOf = new Uint16Array(geometry, style.at, style.length / 2);
  // A row is an entity, whether it is an arc, and eight numbers.
  const count = curv.length / 4 / CURVE;
  const [whole, real] = [
    new Uint32Array(details, curv.at, count * CURVE),
    new Float32Array(details, curv.at, count * CURVE),
  ];
  const curves = new Float32Array(count * 8);
  for (let i = 0; i < count; i++) curves.set(real.subarray(CURVE * i + 2, CURVE * (i + 1)), 8 * i);
  return {
    segments: new Float32Array(geometry, strokes.at, strokes.length / 4),
    segmentEntity: new Uint32Array(geometry, entities.at, entities.length / 4),
    ends: new Uint8Array(details, ends.at, ends.length),
    curves,
    curveEntity: Uint32Array.from({ length: count }, (_, i) => whole[CURVE * i]!),
    isArc: Uint8Array.from({ length: count }, (_, i) => whole[CURVE * i + 1]!),
    origin,
    layerOf: (entity) => styles[styleOf[entity]!]?.[0] ?? -1,
  };
}
