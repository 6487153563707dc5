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

type Head = Omit<PreparedSheet, "segments" | "segmentEntity" | "triangles" | "triangleEntity" | "entityStyle"> & {
  segments: number;
  triangles: number;
  entities: number;
};

/** Reads the binary form. Throws when it is of another kind or version. */
export function readPreparedSheet(buffer: ArrayBuffer): PreparedSheet {
  const view = new DataView(buffer);
  const magic = tagAt(view, 0);
  const version = view.getUint32(4, true);
  if (magic !== "FRSH" || (version !== 1 && version !== 2))
    throw new Error(`Not a prepared sheet of version 1 or 2: ${magic} ${version}.`);
  return version === 1 ? readFixedOrder(buffer, view) : readSections(buffer);
}

const tagAt = (view: DataView, at: number) =>
  String.fromCharCode(view.getUint8(at), view.getUint8(at + 1), view.getUint8(at + 2), view.getUint8(at + 3));

/** The tagged sections of a prepared form, by their tags; those of tags nobody asks for are passed over. */
export function sectionsOf(buffer: ArrayBuffer): (tag: string) => { at: number; length: number } {
  const view = new DataView(buffer);
  const found = new Map<string, { at: number; length: number }>();
  for (let i = 0; i < view.getUint32(8, true); i++) {
    const row = 12 + 12 * i;
    found.set(tagAt(view, row), { at: view.getUint32(row + 4, true), length: view.getUint32(row + 8, true) });
  }
  return (tag) => {
    const section = found.get(tag);
    if (!section) throw new Error(`The prepared sheet has no section ${tag}.`);
    return section;
  };
}

function readSections(buffer: ArrayBuffer): PreparedSheet {
  const section = sectionsOf(buffer);
  const numbers = <T>(make: new (buffer: ArrayBuffer, at: number, length: number) => T, size: number, tag: string) => {
    const { at, length } = section(tag);
    return new make(buffer, at, length / size);
  };
  const { at, length } = section("HEAD");
  return {
    ...(JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, at, length))) as Head),
    segments: numbers(Float32Array, 4, "STRK"),
    segmentEntity: numbers(Uint32Array, 4, "STRE"),
    triangles: numbers(Float32Array, 4, "TRIA"),
    triangleEntity: numbers(Uint32Array, 4, "TRIE"),
    entityStyle: numbers(Uint16Array, 2, "STYL"),
  };
}

/** Version 1, as drafts have it that are not prepared anew yet: the same numbers one after another. */
function readFixedOrder(buffer: ArrayBuffer, view: DataView): PreparedSheet {
  const headLength = view.getUint32(8, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 12, headLength))) as Head;
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
