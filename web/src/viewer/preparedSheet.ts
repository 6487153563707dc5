/** A sheet as the server prepares it; the layout is described in PreparedSheet.cs. Coordinates are offsets from `origin`, y up. */
export type PreparedSheet = {
  name: string;
  unit: string;
  origin: [number, number];
  /** Least x, least y, greatest x, greatest y, in sheet coordinates. */
  extents: [number, number, number, number];
  tolerance: number;
  layers: { name: string; isOn: boolean; rgb: number }[];
  /** Layer, 0xRRGGBB, weight in 1/100 mm. */
  styles: [number, number, number][];
  /** Four numbers for each run of 2,048 segments: its box. */
  runs: number[];
  texts: SheetText[];
  segments: Float32Array;
  segmentEntity: Uint32Array;
  triangles: Float32Array;
  triangleEntity: Uint32Array;
  entityStyle: Uint16Array;
};

/** Words, x, y, along x, along y, up x, up y, anchor, rise, entity. */
export type SheetText = [string, number, number, number, number, number, number, number, number, number];

export const RUN_LENGTH = 2048;

/** Reads the binary form. Throws when it is of another kind or version. */
export function readPreparedSheet(buffer: ArrayBuffer): PreparedSheet {
  const view = new DataView(buffer);
  const magic = String.fromCharCode(view.getUint8(0), view.getUint8(1), view.getUint8(2), view.getUint8(3));
  if (magic !== "FRSH" || view.getUint32(4, true) !== 1)
    throw new Error(`Not a prepared sheet of version 1: ${magic} ${view.getUint32(4, true)}.`);
  const headLength = view.getUint32(8, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 12, headLength))) as Omit<
    PreparedSheet,
    "segments" | "segmentEntity" | "triangles" | "triangleEntity" | "entityStyle"
  > & { segments: number; triangles: number; entities: number };
  let at = 12 + headLength;
  const take = (bytes: number) => {
    const start = at;
    at += bytes;
    return start;
  };
  return {
    ...head,
    segments: new Float32Array(buffer, take(head.segments * 16), head.segments * 4),
    segmentEntity: new Uint32Array(buffer, take(head.segments * 4), head.segments),
    triangles: new Float32Array(buffer, take(head.triangles * 24), head.triangles * 6),
    triangleEntity: new Uint32Array(buffer, take(head.triangles * 4), head.triangles),
    entityStyle: new Uint16Array(buffer.slice(take(head.entities * 8) + head.entities * 8)),
  };
}
