import { useQuery } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { useJobId, useStation } from "./job";
import type { Write } from "./types";

export const useFitup = () =>
  useStation("fit-up", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up", at(id))));

export function useJoint(key: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "joint", key],
    enabled: key !== "",
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/fit-up/joints/{key}", { params: { path: { job_id, key } } }),
      ),
  });
}

/** Build a joint of one's own from a starting point. */
export const addJoint =
  (body: Body<"JointWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints", { ...at(job_id), body: { ...base, ...body } }),
    );

/** Take a joint out of the job. */
export const removeJoint =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** Add a layer to a joint. */
export const addLayer =
  (key: string, body: Body<"LayerWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/layers", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** Take a layer out of a joint for good. */
export const removeLayer =
  (key: string, layer: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/layers/{layer}/remove", {
        params: { path: { job_id, key, layer } },
        body: base,
      }),
    );
