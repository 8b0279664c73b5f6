import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { api, at, unwrap } from "./client";
import { Refusal, Unreachable } from "./errors";
import { useJobId } from "./job";
import type { Frame, SavedView, Write } from "./types";
import { Held, hold, sentOf, useHolding, waitingLine } from "./waiting";

/** A key that makes a repeated request harmless. */
export const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (b) =>
    b.toString(16).padStart(2, "0"),
  ).join("");

async function currentVersion(queries: QueryClient, job_id: string): Promise<number> {
  const known = queries.getQueryData<Frame>(["frame", job_id]);
  if (known) return known.version;
  const frame = await unwrap(api.GET("/api/jobs/{job_id}", at(job_id)));
  queries.setQueryData(["frame", job_id], frame);
  return frame.version;
}

/** The longest that a write which can wait is waited for. */
const ANSWER_MS = 8000;

/** The answer, or “unreachable” where none comes: a lost network may say nothing at all. */
export function inTime<T>(answer: Promise<T>): Promise<T> {
  return new Promise((done, failed) => {
    const timer = setTimeout(() => failed(new Unreachable("No answer in time.")), ANSWER_MS);
    answer.then(done, failed).finally(() => clearTimeout(timer));
  });
}

/** What a write changed is known to every screen; an older read still under way says no more. */
export async function settle(queries: QueryClient, job_id: string, saved: SavedView) {
  await queries.cancelQueries({ queryKey: ["frame", job_id] });
  queries.setQueryData(["frame", job_id], saved.frame);
  await queries.invalidateQueries({ queryKey: ["job", job_id] });
  void queries.invalidateQueries({ queryKey: ["jobs"] });
}

/** A write that may wait: behind what waits already, and on this device where no answer comes. */
async function sendOrHold(
  queries: QueryClient,
  job_id: string,
  key: string,
  write: Write,
  about: string,
) {
  const sent = sentOf(write);
  if (!sent) return carryOut(queries, job_id, key, write);
  const version = await currentVersion(queries, job_id);
  const { name, body, says } = sent;
  const entry = { name, body, key, words: says(about), made_ms: Date.now() };
  if (waitingLine(job_id).entries.length === 0) {
    try {
      return await carryOut(queries, job_id, key, (id, base) => inTime(write(id, base)));
    } catch (error) {
      if (!(error instanceof Unreachable)) throw error;
    }
  }
  hold(job_id, version, entry);
  throw new Held(about);
}

async function carryOut(queries: QueryClient, job_id: string, key: string, write: Write) {
  const version = await currentVersion(queries, job_id);
  try {
    const saved = await write(job_id, { version, key });
    await settle(queries, job_id, saved);
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

/**
 * Returns the one function that writes to the job in the address. Writes of a job share a
 * scope: they go out one after the other, each on the version before it.
 */
export function useWrite() {
  const job_id = useJobId();
  const queries = useQueryClient();
  const about = useHolding();
  const { mutateAsync } = useMutation({
    scope: { id: `job ${job_id}` },
    // A server that does not answer is said at once, whatever the browser thinks of the network.
    networkMode: "always",
    mutationFn: (asked: { write: Write; key: string; about: string | null }) =>
      asked.about === null
        ? carryOut(queries, job_id, asked.key, asked.write)
        : sendOrHold(queries, job_id, asked.key, asked.write, asked.about),
  });
  return useCallback(
    // What it is about is said with it: until its turn comes, the screen may show something else.
    (write: Write, key: string = newKey(), named?: string): Promise<SavedView> =>
      mutateAsync({ write, key, about: about === null ? null : (named ?? about) }),
    [mutateAsync, about],
  );
}
