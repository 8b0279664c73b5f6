import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { type Ghost, useGhost } from "../parts/Focus";
import { useUnits } from "../parts/units";
import {
  api,
  type PlateView,
  Refusal,
  type SurveyView,
  type System,
  Unreachable,
  unwrap,
} from "./client";
import { at, useJobId, useStation } from "./hooks";

export const useUnderside = () =>
  useStation("underside", (id) => unwrap(api.GET("/api/jobs/{job_id}/survey/underside", at(id))));
export function useGaps(ready: boolean) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "gaps"],
    enabled: ready,
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/survey/gaps", at(job_id))),
  });
}
export const useWeighings = () =>
  useStation("weighings", (id) => unwrap(api.GET("/api/jobs/{job_id}/weighings", at(id))));
export const useStrip = () =>
  useStation("strip", (id) => unwrap(api.GET("/api/jobs/{job_id}/strip", at(id))));

export const usePlate = (key: string) =>
  useStation(`plate ${key}`, (job_id) =>
    unwrap(api.GET("/api/jobs/{job_id}/plates/{key}", { params: { path: { job_id, key } } })),
  );

export function useComparison(key: string, other: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "against", key, other],
    enabled: other !== "",
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/plates/{key}/against/{other}", {
          params: { path: { job_id, key, other } },
        }),
      ),
  });
}

/** The sketch that shows where the tape goes for one number; none for other fields. */
export function useSketch(key: string, name: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "sketch", key, name],
    enabled: /^[xyz]_/.test(name),
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/survey/sketch/{key}/{name}", {
          params: { path: { job_id, key, name } },
        }),
      ),
  });
}

type Body = Ghost & { system: System };

/** What a view would be with the field in hand as it is being typed; undefined otherwise. */
function useFollow<T>(name: string, ask: (job_id: string, body: Body) => Promise<T>) {
  const ghost = useGhost();
  const job_id = useJobId();
  const { system } = useUnits();
  const query = useQuery({
    queryKey: ["what-if", job_id, name, ghost, system],
    enabled: ghost !== null,
    // Half a number is refused; the last good picture stays until there is a better one.
    retry: (count, error) => !(error instanceof Refusal) && count < 1,
    placeholderData: keepPreviousData,
    gcTime: 0,
    queryFn: () => ask(job_id, { ...(ghost as Ghost), system }),
  });
  return ghost ? query.data : undefined;
}

export const useSurveyFollow = (): SurveyView | undefined =>
  useFollow("survey", (job_id, body) =>
    unwrap(api.POST("/api/jobs/{job_id}/survey/what-if", { ...at(job_id), body })),
  );

export const usePlateFollow = (key: string): PlateView | undefined =>
  useFollow(`plate ${key}`, (job_id, body) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/what-if", {
        params: { path: { job_id, key } },
        body,
      }),
    ),
  );

export const useShelf = () =>
  useQuery({ queryKey: ["shelf"], queryFn: () => unwrap(api.GET("/api/shelf")) });

/** Puts a bike or plate on the shelf, or throws something off it. */
export function useShelfActs() {
  const queries = useQueryClient();
  const job_id = useJobId();
  return {
    put: async (kind: "bike" | "plate", plate = "") =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(
          api.POST("/api/jobs/{job_id}/shelf", { ...at(job_id), body: { kind, plate } }),
        ),
      ),
    drop: async (item: string) =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(api.POST("/api/shelf/{item}/drop", { params: { path: { item } }, body: {} })),
      ),
  };
}

export const useLayouts = () =>
  useQuery({ queryKey: ["layouts"], queryFn: () => unwrap(api.GET("/api/layouts")) });

const POLL_MS = 400;

/** How every instrument stands, asked again and again while someone looks. */
export const useInstruments = () =>
  useQuery({
    queryKey: ["instruments"],
    refetchInterval: POLL_MS,
    queryFn: () => unwrap(api.GET("/api/instruments")),
  });

/** Sends a picture as it is; the server re-encodes it without place, time or camera. */
export async function sendPhoto(job_id: string, file: File): Promise<{ id: string }> {
  let answer: Response;
  try {
    answer = await fetch(`/api/jobs/${job_id}/strip/photos`, {
      method: "POST",
      headers: { "Content-Type": file.type },
      body: file,
    });
  } catch (cause) {
    throw new Unreachable("The server does not answer.", { cause });
  }
  const body = await answer.json();
  if (!answer.ok) throw new Refusal(answer.status, body);
  return body;
}
