import { api, at, type Body, unwrap } from "./client";
import { sendFile, sendPhoto } from "./files";
import { useStation } from "./job";
import type { Write } from "./types";

export const useKit = () =>
  useStation("kit", (id) => unwrap(api.GET("/api/jobs/{job_id}/kit", at(id))));

export const useTools = () =>
  useStation("tools", (id) => unwrap(api.GET("/api/jobs/{job_id}/kit/tools", at(id))));

/** A tool that one has, and where it lies. */
export const addTool =
  (tool: string, place: "garage" | "trail roll"): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/tools", {
        ...at(job_id),
        body: { ...base, tool, place },
      }),
    );

/** A picture or a PDF as pages kept beside the job; their ids. */
export async function sendPage(job_id: string, file: File): Promise<readonly string[]> {
  if (file.type !== "application/pdf") return [(await sendPhoto(job_id, file)).id];
  const answer = await sendFile(`/api/jobs/${job_id}/kit/pdf`, file);
  return (answer as { ids: string[] }).ids;
}

/** All of these lines are there; none named: every line that is not counted yet. */
export const countAll =
  (lines: string[] = []): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/count-all", { ...at(job_id), body: { ...base, lines } }),
    );

/** A listed part becomes a joint's own. */
export const putLine =
  (line: string, joint: string, part: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/put", {
        ...at(job_id),
        body: { ...base, line, joint, part },
      }),
    );

/** Spread the list's screws over mounts without a joint. */
export const proposeJoints: Write = (job_id, base) =>
  unwrap(api.POST("/api/jobs/{job_id}/kit/propose", { ...at(job_id), body: base }));

/** A proposed joint was looked at; none named: all of them. */
export const confirmJoint =
  (joint = ""): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/kit/confirm", { ...at(job_id), body: { ...base, joint } }));

/** Use another part in a joint's place. */
export const putInstead =
  (body: Body<"SubstituteWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/substitutes", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );

/** Take a substitute out, as if it had never been put in. */
export const removeSubstitute =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/substitutes/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** What a revised list would alter; nothing is saved. */
export const previewRevision = (job_id: string, body: Body<"CsvText">) =>
  unwrap(api.POST("/api/jobs/{job_id}/kit/revision/preview", { ...at(job_id), body }));

/** Take the chosen changes of a revised list. */
export const takeRevision =
  (body: Body<"RevisionWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/revision", { ...at(job_id), body: { ...base, ...body } }),
    );

/** A picture beside the job becomes a page of the sheet. */
export const keepPage =
  (photo: string): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/kit/pages", { ...at(job_id), body: { ...base, photo } }));

/** Take a page off the sheet. */
export const dropPage =
  (photo: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/kit/pages/remove", {
        ...at(job_id),
        body: { ...base, photo },
      }),
    );

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
