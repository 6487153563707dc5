import type { components } from "./schema";

type Schemas = components["schemas"];
export type Person = Schemas["Person"];
export type Session = Schemas["Session"];
export type PackageView = Schemas["PackageView"];
export type PackageItem = Schemas["PackageItem"];
export type PackageRow = Schemas["PackageRow"];
export type DeskView = Schemas["DeskView"];
export type NoteRow = Schemas["NoteRow"];
export type SignOffRow = Schemas["SignOffRow"];
export type DocumentRow = Schemas["DocumentRow"];
export type DocumentPage = Schemas["DocumentPage"];
export type DocumentDetail = Schemas["DocumentDetail"];
export type DraftRow = Schemas["DraftRow"];
export type HistoryEntry = Schemas["HistoryEntry"];
export type UploadState = Schemas["UploadState"];
export type SheetRow = Schemas["SheetRow"];
export type PlanRow = Schemas["PlanRow"];
export type PersonGroup = Schemas["PersonGroup"];
export type MessagePage = Schemas["MessagePage"];

export type Verdict = "approve" | "approveAsNoted" | "returnForChanges";
export type NoteKind = "remark" | "question" | "request";
export type Point = { x: number; y: number };
export type Shape = { shape: "cloud" | "arrow"; from: Point; to: Point };

/** A plan's tree as the server gives it; the generated types flatten the kinds of block. */
export type Block =
  | {
      block: "step";
      key: string;
      name: string;
      instruction: string;
      workingDays: number;
      seats: { key: string; role: string; holder: Holder }[];
    }
  | { block: "sequence"; blocks: Block[] }
  | { block: "parallel"; branches: { blocks: Block[] }[] };
export type Step = Extract<Block, { block: "step" }>;
export type Holder =
  { holder: "person"; person: string } | { holder: "group"; group: string; needed: number } | { holder: "originator" };
export type Plan = { name: string; purpose: string; root: { blocks: Block[] } };

/** Every step of a plan, in reading order. */
export function stepsOf(plan: Plan): Step[] {
  const walk = (b: Block): Step[] =>
    b.block === "step"
      ? [b]
      : b.block === "sequence"
        ? b.blocks.flatMap(walk)
        : b.branches.flatMap((x) => x.blocks.flatMap(walk));
  return plan.root.blocks.flatMap(walk);
}

/** Working days a plan may take: steps in a row add up, of branches the longest counts. */
export function workingDaysOf(plan: Plan): number {
  const days = (b: Block): number =>
    b.block === "step"
      ? b.workingDays
      : b.block === "sequence"
        ? b.blocks.reduce((n, x) => n + days(x), 0)
        : Math.max(...b.branches.map((x) => x.blocks.reduce((n, y) => n + days(y), 0)));
  return plan.root.blocks.reduce((n, b) => n + days(b), 0);
}
