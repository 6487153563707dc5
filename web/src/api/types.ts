import type { components } from "./schema";

type Schemas = components["schemas"];
export type Person = Schemas["Person"];
export type Session = Schemas["Session"];
export type PackageView = Schemas["PackageView"];
export type PackageItem = Schemas["PackageItem"];
export type PackageRow = Schemas["PackageRow"];
export type DeskView = Schemas["DeskView"];
export type NoteRow = Schemas["NoteRow"];
export type MarkedFileTaken = Schemas["MarkedFileTaken"];
export type ListedNote = Schemas["ListedNote"];
export type ListedEntry = Schemas["ListedEntry"];
export type DocumentRow = Schemas["DocumentRow"];
export type SavedView = Schemas["SavedView"];
export type DocumentDetail = Schemas["DocumentDetail"];
export type HistoryEntry = Schemas["HistoryEntry"];
export type SeenSheet = Schemas["SeenSheet"];
export type FileMatch = Schemas["FileMatch"];
export type UploadState = Schemas["UploadState"];
export type Leaf = Schemas["ShownLeaf"];
export type SheetLeaf = Leaf & { frame: Schemas["FrameSheetFrame"] };
export type TableLeaf = Leaf & { frame: Schemas["FrameTableFrame"] };
export type SceneLeaf = Leaf & { frame: Schemas["FrameSceneFrame"] };
export type SceneFacts = Schemas["SceneFacts"];
export type SectionCut = Schemas["SectionCut"];
export type PartsListRow = Schemas["PartsListRow"];
export type KeptView = Schemas["KeptView"];
export type KeptViewRow = Schemas["KeptViewRow"];
export type ComponentFacts = Schemas["ComponentFacts"];
export type PartFacts = Schemas["PartFacts"];
export type BlockFacts = Schemas["BlockFacts"];
export type ExactFacts = Schemas["ExactFacts"];
export type FaceFacts = Schemas["Face"];
export type EdgeFacts = Schemas["Edge"];
export type Point3 = Schemas["Point3"];
export type TableFacts = Schemas["TableFacts"];
export type TableCell = Schemas["TableCell"];
export type TableRow = Schemas["TableRow"];
export type CellStyle = Schemas["CellStyle"];
export type CellLine = Schemas["CellLine"];
export type MergedCells = Schemas["MergedCells"];
export type PageFacts = Schemas["PageFacts"];
export type LayerSwitch = Schemas["LayerSwitch"];
export type PlacedPicture = Schemas["PlacedPicture"];
export type TilePyramid = Schemas["TilePyramid"];
export type FileMark = Schemas["FileMark"];
export type FoundInDrafts = Schemas["FoundInDrafts"];
export type FoundStretch = Schemas["FoundStretch"];
export type NamedDocument = Schemas["NamedDocument"];
export type FoundInRegister = Schemas["FoundInRegister"];
export type Shape = Schemas["Shape"];
export type PointPath = Schemas["ShapePolyline"] | Schemas["ShapeFreehand"] | Schemas["ShapeCloudPath"];
export type Leader = Schemas["ShapeLeader"];
export type WrittenWords = Schemas["ShapeWrittenWords"];
export type Area = Schemas["ShapeArea"];
export type PathLength = Schemas["ShapePathLength"];
export type Coordinate = Schemas["ShapeCoordinate"];
export type Angle = Schemas["ShapeAngle"];
export type Radius = Schemas["ShapeRadius"];
export type Dimension = Schemas["ShapeDimension"];
export type Stamp = Schemas["ShapeStamp"];
export type Count = Schemas["ShapeCount"];
export type CellRange = Schemas["ShapeCellRange"];
export type Pin = Schemas["ShapePin"];
export type PinEye = Pin["eye"];
export type ModelMeasure = Schemas["ShapeModelMeasure"];
export type ModelSpot = Schemas["ModelSpot"];
export type OnView = Schemas["ShapeOnView"];
export type ModelDimension = Schemas["ModelDimension"];
export type FoundAgain = Schemas["FoundAgain"];
export type ShownInModel = Schemas["ShownInModel"];
export type ShownInModels = Schemas["ShownInModels"];
export type ItemOnSheet = Schemas["ItemOnSheet"];
export type ComponentData = Schemas["ComponentData"];
export type Tint = Schemas["Tint"];
export type DraftName = Schemas["DraftName"];
export type FoundHow = Schemas["FoundHow"];
export type BetweenFound = Schemas["BetweenFound"];
export type PickedOnModel = Schemas["PickedOnModel"];
export type MarkPlace = Schemas["Place"];
export type MarkupChange = Schemas["MarkupChange"];
export type TypedOverRow = Schemas["TypedOverRow"];
export type PersonHere = Schemas["PersonHere"];
export type Phrase = Schemas["Phrase"];
export type PictureKept = Schemas["PictureKept"];
export type DraftOverlay = Schemas["DraftOverlay"];
export type OverlayLook = Schemas["OverlayLook"];
export type EarlierOverlay = Schemas["EarlierOverlay"];
export type DrawnMarkup = Schemas["DrawnMarkup"];
export type NoteMark = Schemas["NoteMark"];
export type PlanRow = Schemas["PlanRow"];
export type PlanDraft = Schemas["PlanDraft"];
export type Preview = Schemas["Preview"];
export type Finding = Schemas["Finding"];
export type PersonGroup = Schemas["PersonGroup"];
export type PostedMessage = Schemas["PostedMessage"];
export type Right = Schemas["Right"];
export type GrantedRight = Schemas["GrantedRight"];
export type FolderRow = Schemas["FolderRow"];
export type FolderDetail = Schemas["FolderDetail"];
export type StandingOrder = Schemas["StandingOrder"];
/** A stretch of a day in minutes from midnight. */
export type DayPart = Schemas["DayPart"];
export type CalendarRow = Schemas["CalendarRow"];
export type GroupRight = Schemas["GroupRight"];
export type OneOfMany = Schemas["OneOfMany"];
export type PostHours = Schemas["PostHours"];
export type Stall = Schemas["Stall"];
export type TimeLeft = Schemas["TimeLeft"];
export type DateManner = Schemas["DateManner"];
export type Pinned = Schemas["Pinned"];
export type Remedy = Schemas["Remedy"];

export const isTable = (leaf: Leaf | undefined): leaf is TableLeaf => leaf?.frame.kind === "table";
export const isScene = (leaf: Leaf | undefined): leaf is SceneLeaf => leaf?.frame.kind === "scene";
export const isSheet = (leaf: Leaf | undefined): leaf is SheetLeaf => leaf?.frame.kind === "sheet";

export type Verdict = "approve" | "approveAsNoted" | "returnForChanges";
export type NoteAct = Schemas["NoteAct"];
export type NoteKind = "remark" | "question" | "request";
declare const counted: unique symbol;
/** What a point's numbers are counted in, told to the compiler alone: one kind is not taken for another. */
export type CountedIn<In extends string> = { readonly [counted]: In };
/** A place on a sheet, in its own units. */
export type Point = { x: number; y: number } & Partial<CountedIn<"sheet">>;

export type Comparison =
  "is" | "isNot" | "moreThan" | "atLeast" | "lessThan" | "atMost" | "contains" | "matches" | "isEmpty";
export type Subject = "form" | "anyDocument" | "everyDocument" | "size";
export type Condition = { subject: Subject; field: string; comparison: Comparison; value: string };
export type Rule = { any: boolean; conditions: Condition[] };
export type Sequence = { blocks: Block[] };
export type Way = { key: string; name: string; rule: Rule | null; blocks: Sequence };
export type Holder =
  | { holder: "person"; person: string }
  | { holder: "group"; group: string; needed: number }
  | { holder: "originator" }
  | { holder: "owners" }
  | { holder: "signerOf"; step: string }
  | { holder: "chosen"; group: string };
export type Seat = { key: string; role: string; holder: Holder; waitsForRest?: boolean };
export type Checkpoint = { key: string; text: string; kind: "yesNo" | "number" | "text"; unit: string; must: boolean };
export type Telling = {
  at: "arrival" | "passage" | "return" | "late";
  people: string[];
  groups: string[];
  originator: boolean;
  lastEditor?: boolean;
  asksSender?: boolean;
  afterDays?: number;
};
export type SignAgain = "all" | "returnedAndAfter" | "changedItems";
export type FormField = {
  key: string;
  label: string;
  kind: "text" | "longText" | "number" | "date" | "choice" | "yesNo" | "person" | "document";
  unit: string;
  help: string;
  must: boolean;
  options: string[];
};
export type ClosingAction =
  | { action: "informGroup"; group: string }
  | { action: "fileUnder"; folder: string; copy?: boolean }
  | { action: "fileWherePicked"; step: string; copy?: boolean }
  | { action: "openFollowUp"; plan: string; title: string };

/** A plan's tree as the server gives it; the generated types flatten the kinds of block. */
export type Block =
  | {
      block: "step";
      key: string;
      name: string;
      instruction: string;
      workingDays: number;
      seats: Seat[];
      checkpoints?: Checkpoint[];
      passesWhen?: Rule | null;
      returnsTo?: string | null;
      signAgain?: SignAgain;
      barsOriginator?: boolean;
      oneSeatEach?: boolean;
      /** In hundredths of each item; 0 where the step does not ask. */
      seenShare?: number;
      marksApart?: boolean;
      tells?: Telling[];
      reminders?: number[];
    }
  | { block: "sequence"; blocks: Block[] }
  | { block: "parallel"; branches: Sequence[] }
  | { block: "choice"; key: string; name: string; ways: Way[]; pickedAt?: string | null };
export type Step = Extract<Block, { block: "step" }>;
export type Choice = Extract<Block, { block: "choice" }>;
export type Plan = {
  name: string;
  purpose: string;
  root: Sequence;
  form?: FormField[];
  closing?: ClosingAction[];
  fits?: Rule | null;
  itemByItem?: boolean;
  holdsNoted?: boolean;
  needsNoSignature?: string;
  supportingUnopened?: boolean;
  signersReopen?: boolean;
  answering?: Answering | null;
};
export type Answering = { workingDays: number; reminders?: number[]; tells?: Telling[] };

/** Who is signed in, with what they may do anywhere. */
export type Me = Person & {
  rights: readonly GrantedRight[];
  canSend: boolean;
  canCoordinate: boolean;
  canBuildPlans: boolean;
  canAdminister: boolean;
  dates: DateManner;
};
export function meOf(person: Person, rights: readonly GrantedRight[], dates: DateManner): Me {
  const has = (right: Right) => rights.some((r) => r.right === right);
  return {
    ...person,
    rights,
    dates,
    canSend: has("send"),
    canCoordinate: has("coordinate"),
    canBuildPlans: has("buildPlans"),
    canAdminister: has("administer"),
  };
}

/** The lanes a block holds side by side; none for a step. */
export function lanesOf(b: Block): Sequence[] {
  switch (b.block) {
    case "step":
      return [];
    case "sequence":
      return [{ blocks: b.blocks }];
    case "parallel":
      return b.branches;
    case "choice":
      return b.ways.map((w) => w.blocks);
  }
}

/** A plan as it came, with its blocks told apart: the described types know them only as one. */
export const planOf = (from: { plan: Schemas["Plan"] }): Plan => from.plan as unknown as Plan;

/** Every block of a plan, each before what it holds, in reading order. */
export function blocksOf(plan: Plan): Block[] {
  const walk = (b: Block): Block[] => [b, ...lanesOf(b).flatMap((x) => x.blocks.flatMap(walk))];
  return plan.root.blocks.flatMap(walk);
}

/** Every step of a plan, in reading order. */
export const stepsOf = (plan: Plan): Step[] => blocksOf(plan).filter((b) => b.block === "step");

/** Working days a plan may take: steps in a row add up, of lanes side by side the longest counts. */
export function workingDaysOf(plan: Plan): number {
  const row = (blocks: readonly Block[]): number => blocks.reduce((n, b) => n + days(b), 0);
  const days = (b: Block): number =>
    b.block === "step" ? b.workingDays : Math.max(0, ...lanesOf(b).map((x) => row(x.blocks)));
  return row(plan.root.blocks);
}
