import { api, at, type Body, unwrap } from "./client";
import type { Write } from "./types";

export type RowsOf = Body<"RowsText">["where"];

/** What a typed table would become; nothing is saved. */
export const previewRows = (job_id: string, body: Body<"RowsText">) =>
  unwrap(api.POST("/api/jobs/{job_id}/rows/preview", { ...at(job_id), body }));

/** Add every row of a typed table that is understood. */
export const takeRows =
  (body: Body<"RowsWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/rows", { ...at(job_id), body: { ...base, ...body } }));
