import {
  keepPreviousData,
  type QueryClient,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useCallback } from "react";
import { useParams } from "react-router";
import { api, type Frame, Refusal, type SavedView, Unreachable, unwrap } from "./client";

/** The job in the address. */
export function useJobId(): string {
  return useParams().job ?? "";
}

export function useJobs() {
  return useQuery({ queryKey: ["jobs"], queryFn: () => unwrap(api.GET("/api/jobs")) });
}

export function useFrame() {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["frame", job_id],
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}", { params: { path: { job_id } } })),
  });
}

/** The view of one station of the job in the address. */
export function useStation<T>(name: string, fetchIt: (job_id: string) => Promise<T>) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, name],
    queryFn: () => fetchIt(job_id),
    placeholderData: keepPreviousData,
  });
}

export const at = (job_id: string) => ({ params: { path: { job_id } } });

export const useSurvey = () =>
  useStation("survey", (id) => unwrap(api.GET("/api/jobs/{job_id}/survey", at(id))));
export const useWeighup = () =>
  useStation("weigh-up", (id) => unwrap(api.GET("/api/jobs/{job_id}/weigh-up", at(id))));
export const useKit = () =>
  useStation("kit", (id) => unwrap(api.GET("/api/jobs/{job_id}/kit", at(id))));
export const useFitup = () =>
  useStation("fit-up", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up", at(id))));
export const useTighten = () =>
  useStation("tighten", (id) => unwrap(api.GET("/api/jobs/{job_id}/tighten", at(id))));
export const useKeep = () =>
  useStation("keep", (id) => unwrap(api.GET("/api/jobs/{job_id}/keep", at(id))));

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

/** What every write carries. */
export type Base = { version: number; key: string };
type Call = (job_id: string, base: Base) => Promise<SavedView>;

/** One queue a job: writes go out one after the other, each on the version before it. */
const queues = new Map<string, Promise<unknown>>();

async function currentVersion(queries: QueryClient, job_id: string): Promise<number> {
  const known = queries.getQueryData<Frame>(["frame", job_id]);
  if (known) return known.version;
  const frame = await unwrap(api.GET("/api/jobs/{job_id}", at(job_id)));
  queries.setQueryData(["frame", job_id], frame);
  return frame.version;
}

async function carryOut(queries: QueryClient, job_id: string, key: string, call: Call) {
  const version = await currentVersion(queries, job_id);
  try {
    const saved = await call(job_id, { version, key });
    queries.setQueryData(["frame", job_id], saved.frame);
    await queries.invalidateQueries({ queryKey: ["job", job_id] });
    void queries.invalidateQueries({ queryKey: ["jobs"] });
    return saved;
  } catch (error) {
    if (error instanceof Refusal && error.status === 409) {
      // Another tab was faster: take its version, so that a second try is a choice.
      await queries.invalidateQueries({ queryKey: ["frame", job_id] });
      void queries.invalidateQueries({ queryKey: ["job", job_id] });
    }
    throw error;
  }
}

/** A key that makes a repeated request harmless. */
export const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (b) =>
    b.toString(16).padStart(2, "0"),
  ).join("");

/** Returns the one function that writes to the job in the address. */
export function useWrite() {
  const job_id = useJobId();
  const queries = useQueryClient();
  return useCallback(
    (call: Call, key: string = newKey()): Promise<SavedView> => {
      const before = queues.get(job_id) ?? Promise.resolve();
      const mine = before.catch(() => undefined).then(() => carryOut(queries, job_id, key, call));
      queues.set(job_id, mine);
      return mine;
    },
    [job_id, queries],
  );
}

/** Sends a job file as it is; the server reads and checks every byte of it. */
export async function bringIn(file: File): Promise<{ id: string; title: string }> {
  const body = await file.text();
  const sent = unwrap(
    api.POST("/api/jobs", {
      body: {},
      bodySerializer: () => body,
      headers: { "Content-Type": "application/json" },
    }),
  );
  return sent.catch((error: unknown) => {
    if (error instanceof Refusal)
      error.message = `${wordsFor(error)} Place: ${error.answer.error.field}.`;
    throw error;
  });
}

/** Words for whatever went wrong, as a person should read them. */
export function wordsFor(error: unknown): string {
  if (error instanceof Unreachable) return "Not saved: the server does not answer.";
  if (error instanceof Refusal) {
    const { message, remedy } = error.answer.error;
    const first = message.charAt(0).toUpperCase() + message.slice(1);
    return `${first.replace(/\.$/, "")}. ${remedy}`;
  }
  return "Something went wrong. Reload the page and try again.";
}
