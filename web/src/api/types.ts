import type { components } from "./schema";

type S = components["schemas"];

export type Job = S["Job"];
export type Piece = S["Piece"];
export type Line = S["Line"];
export type Operation = S["Operation"];
export type Shape = S["Shape"];
export type Element = S["Element"];
export type Spacing = S["Spacing"];
export type BendRule = S["BendRule"];
/** A piece with its lists unpacked. */
export type PieceView = Omit<S["PieceView"], "mesh" | "raised" | "flat" | "features" | "tags"> & {
  mesh: Mesh;
  raised: Raised;
  flat: Flat;
  features: Feature[];
  tags: string[];
};
export type Evaluated = Omit<S["Evaluated"], "piece" | "brief"> & {
  piece?: PieceView | null;
  brief?: BriefView | null;
};
/** A brief as it was checked; what other benches tell beside it, it has none of. */
export type BriefView = S["BriefView"] & { figures: FigureResult[]; findings: Finding[] };
export type Flat = Omit<S["FlatView"], "holes"> & {
  /** Path data of each shape, from the first point on. */ paths: string[];
  holes: Hole[];
};
/** A named cut and the line that made it. */
export interface Feature {
  name: string;
  line: string;
}
/** Which of the flat's shapes it is, and where its first point lies. */
export interface Hole extends Feature {
  shape: number;
  at: [number, number];
}
export interface Mesh {
  points: Float32Array;
  zones: Uint32Array;
  triangles: Uint32Array;
  triangle_zones: Uint32Array;
  walls: Uint32Array;
  creases: Uint32Array;
  light: boolean;
}
/** Pressed shapes over the flat: x, y, height in turn, and the zone that each point folds with. */
export interface Raised {
  points: Float32Array;
  zones: Uint32Array;
  triangles: Uint32Array;
  /** Which of the flat's pressed shapes, or behind them of its drilled holes, each triangle belongs to. */
  shapes: Uint32Array;
  lines: Uint32Array;
}
export type PartState = S["PartState"];
export type LabelPlace = S["LabelPlace"];
export type LabelsAsk = S["LabelsAsk"];
export type Brief = S["Brief"];
export type Check = S["Check"];
export type Measured = S["Measured"];
export type Tally = S["Tally"];
export type Figure = S["Figure"];
export type FigureValue = S["FigureValue"];
export type FigureUses = S["FigureUses"];
export type VariantRow = S["VariantRow"];
export type BriefState = S["BriefState"];
export type Proposal = S["Proposal"];
export type FigureResult = S["FigureResult"];
export type Finding = S["Finding"];
export type LineFault = S["LineFault"];
export type Patch = S["Patch"];
export type Mend = S["Mend"];
export type Ticket = S["Ticket"];
export type Revision = S["Revision"];
export type CutList = S["CutList"];
export type Book = S["Book"];
export type Problem = S["Problem"];
export type DrawingView = S["DrawingView"];
export type DrawingOptions = S["DrawingOptions"];
export type TakenDrawing = S["TakenDrawing"];
export type Kept = S["Kept"];
export type Revised = S["Revised"];
export type Assume = S["Assume"];
export type DrawingSheet = S["DrawingSheet"];
export type Tracing = S["Tracing"];
export type TracedElement = S["TracedElement"];
export type TracedResult = S["TracedResult"];
export type LayerUse = S["LayerUse"];
export type OwnMaterial = S["OwnMaterial"];
export type LengthUnit = S["LengthUnit"];
export type ZoneView = S["ZoneView"];
export type Dimension = S["Dimension"];
export type Display = S["Display"];
export type Frame = S["Frame"];
export type FrameLine = S["FrameLine"];
export type FrameOperation = S["FrameOperation"];
export type FrameView = S["FrameView"];
export type JointView = S["JointView"];
export type BodyView = S["BodyView"];
export type FrameList = S["FrameList"];
export type BarRow = S["BarRow"];
export type BenderTable = S["BenderTable"];
export type PlateRow = S["PlateRow"];
export type CutCell = S["CutCell"];
export type SectionCard = S["SectionCard"];
export type BarPlan = S["BarPlan"];
export type BarsLine = S["BarsLine"];
export type OrderLine = S["OrderLine"];
export type BendPictures = S["BendPictures"];
