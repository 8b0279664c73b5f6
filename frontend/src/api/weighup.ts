import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, unwrap } from "./client";
import { at, useJobId, useStation } from "./hooks";

export type StrikeAsked = {
  plate: string;
  direction: string;
  energy: string;
  radius: string;
  system: "metric" | "us";
};

/** The strike map asked for; the last good one stays until the next is there. */
export function useStrikeMap(asked: StrikeAsked) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "strike", asked],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/strike", { ...at(job_id), body: asked, signal }),
      ),
  });
}

/** One struck place in numbers; asked when a place was tapped. */
export function useStrikePoint(asked: StrikeAsked, place: { x: number; y: number } | null) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "strike point", asked, place],
    enabled: place !== null,
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/strike/point", {
          ...at(job_id),
          body: { ...asked, x_mm: place?.x ?? 0, y_mm: place?.y ?? 0 },
        }),
      ),
  });
}

export const usePriorities = () =>
  useStation("priorities", (id) =>
    unwrap(api.GET("/api/jobs/{job_id}/weigh-up/priorities", at(id))),
  );
