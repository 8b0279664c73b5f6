import createClient from "openapi-fetch";
import type { Readable } from "openapi-typescript-helpers";
import type { components, paths } from "./schema";

/** As they arrive: the client reads tuples as plain arrays. */
type Schemas = Readable<components["schemas"]>;
export type Drawing = Schemas["Drawing"];
export type Figure = Schemas["Figure"];
export type Finding = Schemas["Finding"];
export type FieldView = Schemas["FieldView"];
export type Frame = Schemas["Frame"];
export type LedgerLine = Schemas["LedgerLine"];
export type StationState = Schemas["StationState"];
export type Verdict = Figure["verdict"];
export type SavedView = Schemas["SavedView"];
export type ErrorAnswer = Schemas["ErrorAnswer"];
export type PartView = Schemas["PartView"];
export type PlateColumn = Schemas["PlateColumn"];
export type QuantityRow = Schemas["QuantityRow"];
export type KitLineView = Schemas["KitLineView"];
export type KitView = Schemas["KitView"];
export type JointDetail = Schemas["JointDetail"];
export type FitupView = Schemas["FitupView"];
export type LayerView = Schemas["LayerView"];
export type LengthMark = Schemas["LengthMark"];
export type CardView = Schemas["CardView"];
export type StepView = Schemas["StepView"];
export type TightenView = Schemas["TightenView"];
export type KeepJoint = Schemas["KeepJoint"];
export type JobSummary = Schemas["JobSummary"];
export type ItemView = Schemas["ItemView"];
export type SurveyView = Schemas["SurveyView"];
export type UndersideView = Schemas["UndersideView"];
export type GapsView = Schemas["GapsView"];
export type PlateView = Schemas["PlateView"];
export type PlateHead = Schemas["PlateHead"];
export type FieldGroup = Schemas["FieldGroup"];
export type WeighingItem = Schemas["WeighingItem"];
export type StripView = Schemas["StripView"];
export type LinkState = Schemas["LinkState"];
export type CsvPreview = Schemas["CsvPreview"];
export type ShelfView = Schemas["ShelfView"];
export type System = "metric" | "us";

/** The one client; tests stub the global fetch. */
export const api = createClient<paths>({ fetch: (request) => globalThis.fetch(request) });

/** A refusal by the server, in its one error shape. */
export class Refusal extends Error {
  readonly status: number;
  readonly answer: ErrorAnswer;
  constructor(status: number, answer: ErrorAnswer) {
    super(answer.error.message);
    this.status = status;
    this.answer = answer;
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Unwraps an answer: the data, or a typed refusal, or “unreachable”. */
export async function unwrap<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (cause) {
    throw new Unreachable("The server does not answer.", { cause });
  }
  if (answer.data !== undefined) return answer.data;
  throw new Refusal(answer.response.status, answer.error as ErrorAnswer);
}
