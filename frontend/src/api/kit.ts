import { api, at, type Body, unwrap } from "./client";
import { useStation } from "./job";
import type { Write } from "./types";

export const useKit = () =>
  useStation("kit", (id) => unwrap(api.GET("/api/jobs/{job_id}/kit", at(id))));

/** What a pasted list would become; nothing is saved. */
export const previewLines = (job_id: string, body: Body<"CsvText">) =>
  unwrap(api.POST("/api/jobs/{job_id}/kit/preview", { ...at(job_id), body }));

/** Which line of the kit a screw is, by what was read on it; nothing is saved. */
export const identifyScrew = (job_id: string, body: Body<"ReadOff">) =>
  unwrap(api.POST("/api/jobs/{job_id}/kit/identify", { ...at(job_id), body }));

/** Note what was counted for a line; empty text takes the count back. */
export const countLine =
  (body: Body<"CountWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/kit/count", { ...at(job_id), body: { ...base, ...body } }));

/** Add a line of one's own to the kit. */
export const addLine =
  (body: Body<"LineWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/kit/lines", { ...at(job_id), body: { ...base, ...body } }));

/** Take a line out of the kit. */
export const removeLine =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/lines/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** Add every line of a pasted list that is understood. */
export const importLines =
  (body: Body<"CsvWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/import", { ...at(job_id), body: { ...base, ...body } }),
    );
