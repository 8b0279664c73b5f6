import { keepPreviousData, skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Readable } from "openapi-typescript-helpers";
import { useState } from "react";
import { api, unwrap } from "./client";
import { at, useFrame, useJobId, useStation, wordsFor } from "./hooks";
import type { components } from "./schema";

type Schemas = Readable<components["schemas"]>;
export type Gate = Schemas["Gate"];
export type RunView = Schemas["RunView"];
export type School = Schemas["School"];
export type WhatIfRow = Schemas["WhatIfRow"];
export type WhatIfAsked = Required<components["schemas"]["WhatIfAsk"]>;
export type StrikeAsked = Required<components["schemas"]["StrikeAsk"]>;
export type CoverAsked = Required<components["schemas"]["CoverAsk"]>;
/** A place on a map, mm; with a height where it was tapped in the view from ahead. */
export type Place = { x: number; y: number; z?: number };

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

export const usePriorities = () =>
  useStation("priorities", (id) =>
    unwrap(api.GET("/api/jobs/{job_id}/weigh-up/priorities", at(id))),
  );

export const useSchools = () =>
  useStation("schools", (id) => unwrap(api.GET("/api/jobs/{job_id}/weigh-up/schools", at(id))));

type Begin = (job_id: string) => Promise<RunView>;

const POLL_MS = 250;

/** Long work on the server: begin, look how far it is, cancel; kept while one walks about. */
export function useRun(kind: string, begin: Begin) {
  const job_id = useJobId();
  const queries = useQueryClient();
  const version = useFrame().data?.version ?? 0;
  const [trouble, setTrouble] = useState("");
  const started = ["run", job_id, kind, "started"];
  // Never fetched, only put there: so that every screen of the job sees the same run.
  const { data: at_start } = useQuery<{ token: string; version: number }>({
    queryKey: started,
    queryFn: skipToken,
    gcTime: Number.POSITIVE_INFINITY,
  });
  const token = at_start?.token ?? "";
  const look = useQuery({
    queryKey: ["run", job_id, token],
    enabled: token !== "",
    queryFn: () =>
      unwrap(
        api.POST("/api/jobs/{job_id}/weigh-up/strike/all/look", {
          ...at(job_id),
          body: { token },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.state === "running" ? POLL_MS : false),
  });
  const start = async () => {
    setTrouble("");
    try {
      const run = await begin(job_id);
      queries.setQueryData(["run", job_id, run.token], run);
      queries.setQueryData(started, { token: run.token, version });
      await queries.invalidateQueries({ queryKey: ["run", job_id, run.token] });
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  };
  const cancel = async () => {
    const run = await unwrap(
      api.POST("/api/jobs/{job_id}/weigh-up/strike/all/cancel", { ...at(job_id), body: { token } }),
    );
    queries.setQueryData(["run", job_id, token], run);
  };
  const run = token ? look.data : undefined;
  return { run, start, cancel, trouble, stale: run !== undefined && at_start?.version !== version };
}

/** The maps of all plates, for the energy and stone of the rider's use. */
export const beginMaps =
  (asked: StrikeAsked): Begin =>
  (job_id) =>
    unwrap(api.POST("/api/jobs/{job_id}/weigh-up/strike/all", { ...at(job_id), body: asked }));

/** Every uncertain number tried: which would put another plate first. */
export const beginTurns: Begin = (job_id) =>
  unwrap(api.POST("/api/jobs/{job_id}/weigh-up/turns", { ...at(job_id), body: {} }));
