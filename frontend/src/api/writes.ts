import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { api, at, unwrap } from "./client";
import { Refusal } from "./errors";
import { useJobId } from "./job";
import type { Frame, SavedView, Write } from "./types";

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

async function carryOut(queries: QueryClient, job_id: string, key: string, write: Write) {
  const version = await currentVersion(queries, job_id);
  try {
    const saved = await write(job_id, { version, key });
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

/**
 * Returns the one function that writes to the job in the address. Writes of a job share a
 * scope: they go out one after the other, each on the version before it.
 */
export function useWrite() {
  const job_id = useJobId();
  const queries = useQueryClient();
  const { mutateAsync } = useMutation({
    scope: { id: `job ${job_id}` },
    // A server that does not answer is said at once, whatever the browser thinks of the network.
    networkMode: "always",
    mutationFn: (asked: { write: Write; key: string }) =>
      carryOut(queries, job_id, asked.key, asked.write),
  });
  return useCallback(
    (write: Write, key: string = newKey()): Promise<SavedView> => mutateAsync({ write, key }),
    [mutateAsync],
  );
}
