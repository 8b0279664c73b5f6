import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, unwrap } from "./client";
import { useJobId } from "./job";

export type Shown = "on the bike" | "alone";

/** The plate in hand from a side and a height by number; the last picture stays meanwhile. */
export function useSpace(turn: number, height: number, what: Shown) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "space", turn, height, what],
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/space/{turn}/{height}/{what}", {
          params: { path: { job_id, turn: String(turn), height: String(height), what } },
        }),
      ),
  });
}
