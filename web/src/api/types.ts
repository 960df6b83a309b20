import type { components } from "./schema";

type S = components["schemas"];

export type Job = S["Job"];
export type Piece = S["Piece"];
export type Line = S["Line"];
export type Say = S["Say"];
export type Shape = S["Shape"];
export type Element = S["Element"];
export type Spacing = S["Spacing"];
export type BendRule = S["BendRule"];
export type PieceView = S["PieceView"];
export type Evaluated = S["Evaluated"];
export type Brief = S["Brief"];
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
export type ZoneView = S["ZoneView"];
export type MeshView = S["MeshView"];
export type Dimension = S["Dimension"];
export type Display = S["Display"];
