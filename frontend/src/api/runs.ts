import { skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, at, unwrap } from "./client";
import { wordsFor } from "./errors";
import { useFrame, useJobId } from "./job";
import type { RunView, StrikeAsked } from "./types";

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
      unwrap(api.GET("/api/jobs/{job_id}/runs/{token}", { params: { path: { job_id, token } } })),
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
      api.POST("/api/jobs/{job_id}/runs/{token}/cancel", {
        params: { path: { job_id, token } },
        body: {},
      }),
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
export const beginRankShifts: Begin = (job_id) =>
  unwrap(api.POST("/api/jobs/{job_id}/weigh-up/rank-shifts", { ...at(job_id), body: {} }));

/** Strikes of the plates that the answer asks for. */
const beginAnswer: Begin = (job_id) =>
  unwrap(api.POST("/api/jobs/{job_id}/weigh-up/answer/begin", { ...at(job_id), body: {} }));

/** Long work that begins by itself where it is ``due``, and anew when facts changed. */
function useBegun(kind: string, begin: Begin, due: boolean) {
  const work = useRun(kind, begin);
  const { run, stale, start, trouble } = work;
  const now = due && (run === undefined || (stale && run.state !== "running"));
  const begun = useRef(false);
  useEffect(() => {
    if (now && !trouble && !begun.current) {
      begun.current = true;
      void start().finally(() => {
        begun.current = false;
      });
    }
  }, [now, trouble, start]);
  return { ...work, ready: run?.state === "done" && !stale };
}

/** Every uncertain number tried at both ends of its band. */
export const useEveryNumberTried = () => useBegun("rank shifts", beginRankShifts, true);

/** Every plate struck that the answer asks for; nothing is begun where all are. */
export const useAnswerWorked = (due: boolean) => useBegun("answer", beginAnswer, due);
