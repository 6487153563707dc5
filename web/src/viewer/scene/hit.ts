import type { V3 } from "../camera/eye";

/** What lies under a place of the window, in the model's coordinates, as it stands when it is whole. */
export type Hit = {
  component: number;
  face: number;
  edge: number | null;
  /** Whether the end of the edge is meant that lies at the point. */
  isCorner?: boolean;
  point: V3;
  normal: V3;
};

/** A face that a section has cut, under a place of the window. */
export type CutHit = { component: number; point: V3; along: V3 };
