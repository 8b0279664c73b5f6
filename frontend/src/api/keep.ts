import { api, at, type Body, unwrap } from "./client";
import { useStation } from "./job";
import type { Write } from "./types";
import { canWait } from "./waiting";

export const useKeep = () =>
  useStation("keep", (id) => unwrap(api.GET("/api/jobs/{job_id}/keep", at(id))));

/** Record the torque found on a joint at a re-check. */
export const noteFound = canWait(
  "found",
  (body: Body<"FoundWrite">) => `found ${body.text}`,
  (body: Body<"FoundWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/found", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** Note the bike's counter now. */
export const noteCounter = canWait(
  "counter",
  (body: Body<"KmWrite">) => `counter ${body.text}`,
  (body: Body<"KmWrite">): Write =>
    (job_id, base) =>
      unwrap(api.POST("/api/jobs/{job_id}/keep/km", { ...at(job_id), body: { ...base, ...body } })),
);
