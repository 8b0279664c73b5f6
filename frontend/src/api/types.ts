import type { Readable } from "openapi-typescript-helpers";
import type { components } from "./schema";

/** As they arrive: the client reads tuples as plain arrays. */
export type Schemas = Readable<components["schemas"]>;
export type CardView = Schemas["CardView"];
export type CoverAsked = Required<components["schemas"]["CoverAsk"]>;
export type CsvPreview = Schemas["CsvPreview"];
export type Drawing = Schemas["Drawing"];
export type FieldGroup = Schemas["FieldGroup"];
export type FieldView = Schemas["FieldView"];
export type Figure = Schemas["Figure"];
export type Finding = Schemas["Finding"];
export type FitupView = Schemas["FitupView"];
export type Frame = Schemas["Frame"];
export type Gate = Schemas["Gate"];
export type ItemView = Schemas["ItemView"];
export type JobSummary = Schemas["JobSummary"];
export type JointDetail = Schemas["JointDetail"];
export type KeepView = Schemas["KeepView"];
export type KitLineView = Schemas["KitLineView"];
export type KitView = Schemas["KitView"];
export type LayoutsView = Schemas["LayoutsView"];
export type LayerView = Schemas["LayerView"];
export type LedgerLine = Schemas["LedgerLine"];
export type LengthMark = Schemas["LengthMark"];
export type LinkState = Schemas["LinkState"];
export type MeasureNextView = Schemas["MeasureNextView"];
export type PartView = Schemas["PartView"];
export type AnswerView = Schemas["AnswerView"];
export type PlateColumn = Schemas["PlateColumn"];
export type PlateHead = Schemas["PlateHead"];
export type PlateView = Schemas["PlateView"];
export type QuantityRow = Schemas["QuantityRow"];
export type Recheck = Schemas["Recheck"];
export type RunView = Schemas["RunView"];
export type SavedView = Schemas["SavedView"];
export type School = Schemas["School"];
export type ShapesView = Schemas["ShapesView"];
export type SizeAsk = Schemas["SizeAsk"];
export type ShelfLine = Schemas["ShelfLine"];
export type ShelfView = Schemas["ShelfView"];
export type StationState = Schemas["StationState"];
export type StepView = Schemas["StepView"];
export type StrikeAsked = Required<components["schemas"]["StrikeAsk"]>;
export type StripView = Schemas["StripView"];
export type SurveyView = Schemas["SurveyView"];
export type TightenView = Schemas["TightenView"];
export type UndersideView = Schemas["UndersideView"];
export type Verdict = Figure["verdict"];
export type WeighingItem = Schemas["WeighingItem"];
export type WhatIfAsked = Required<components["schemas"]["WhatIfAsk"]>;
export type WhatIfRow = Schemas["WhatIfRow"];
export type System = "metric" | "us";
/** A field as it is being typed: drawings follow it before it is saved. */
export type Ghost = { path: string; text: string };
/** A place on a map, mm; with a height where it was tapped in the view from ahead. */
export type Place = { x: number; y: number; z?: number };

/** What every write carries. */
export type Base = { version: number; key: string; late_s?: number };
/** A write by name, waiting for its job and for the version it is based on. */
export type Write = (job_id: string, base: Base) => Promise<SavedView>;
