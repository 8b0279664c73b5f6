import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { useJobId, useStation } from "./job";
import type { CoverAsked, Place, StrikeAsked, WhatIfAsked, Write } from "./types";

export const useWeighup = () =>
  useStation("weigh-up", (id) => unwrap(api.GET("/api/jobs/{job_id}/weigh-up", at(id))));

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

/** The difference of two plates; asked when another one is named. */
export function useDifference(asked: StrikeAsked, other: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "difference", asked, other],
    enabled: other !== "",
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/strike/difference", {
          ...at(job_id),
          body: { ...asked, other },
          signal,
        }),
      ),
  });
}

/** One struck place in full; asked when a place was tapped. */
export function useStrikePoint(asked: StrikeAsked, place: Place | null) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "strike point", asked, place],
    enabled: place !== null,
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/strike/point", {
          ...at(job_id),
          body: { ...asked, x_mm: place?.x ?? 0, y_mm: place?.y ?? 0, z_mm: place?.z ?? null },
        }),
      ),
  });
}

/** What a plate leaves bare. */
export function useCoverage(asked: CoverAsked) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "coverage", asked],
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(api.POST("/api/jobs/{job_id}/weigh-up/coverage", { ...at(job_id), body: asked })),
  });
}

/** A copy with what is tried on it; nothing is saved. */
export function useWhatIf(asked: WhatIfAsked) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "what-if", asked],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/what-if", { ...at(job_id), body: asked, signal }),
      ),
  });
}

/** The copy's strike map, which takes longer than its rows. */
export function useWhatIfStrike(asked: WhatIfAsked) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "what-if strike", asked],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/what-if/strike", {
          ...at(job_id),
          body: asked,
          signal,
        }),
      ),
  });
}

/** Which plate, and why. */
export function useAnswer(ready: boolean) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "answer"],
    enabled: ready,
    placeholderData: keepPreviousData,
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/weigh-up/answer", at(job_id))),
  });
}

/** How many plates are to be struck before there is an answer. */
export const useToStrike = () =>
  useStation("to strike", (id) =>
    unwrap(api.GET("/api/jobs/{job_id}/weigh-up/answer/wait", at(id))),
  );

/** The one measurement that would change the answer, once every number was tried. */
export function useToMeasure(ready: boolean) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "to measure"],
    enabled: ready,
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/weigh-up/answer/measure", at(job_id))),
  });
}

export const usePriorities = () =>
  useStation("priorities", (id) =>
    unwrap(api.GET("/api/jobs/{job_id}/weigh-up/priorities", at(id))),
  );

export const useSchools = () =>
  useStation("schools", (id) => unwrap(api.GET("/api/jobs/{job_id}/weigh-up/schools", at(id))));

/** Make a plate the job's plate; an empty one takes the pick back. */
export const pickPlate =
  (body: Body<"PickWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weigh-up/pick", { ...at(job_id), body: { ...base, ...body } }),
    );

/** Put a plate in the ledger without picking it. */
export const showInLedger =
  (body: Body<"PickWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weigh-up/look", { ...at(job_id), body: { ...base, ...body } }),
    );

/** Weigh a plate with something it needs, or without it again. */
export const setBundle =
  (body: Body<"BundleWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weigh-up/bundle", { ...at(job_id), body: { ...base, ...body } }),
    );

/** Keep the copy as a candidate. */
export const keepWhatIf =
  (body: Body<"WhatIfWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weigh-up/what-if/keep", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );
