import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import { Refusal, Unreachable, wordsFor } from "./errors";
import type { LinkWord } from "./live";
import { keepLine, type WaitingEntry, waitingLine, writeOf } from "./waiting";
import { inTime, settle } from "./writes";

const TRY_MS = 5000;

/** Sends the first entry that waits; whether the next may follow. */
async function sendFirst(queries: QueryClient, job_id: string, entry: WaitingEntry) {
  const line = waitingLine(job_id);
  const late_s = Math.max(0, Math.round((Date.now() - entry.made_ms) / 1000));
  try {
    const base = { version: line.version, key: entry.key, late_s };
    const saved = await inTime(writeOf(entry)(job_id, base));
    const rest = waitingLine(job_id);
    keepLine(job_id, {
      version: saved.version,
      entries: rest.entries.filter((e) => e.key !== entry.key),
      stopped: null,
    });
    await settle(queries, job_id, saved);
    return true;
  } catch (error) {
    if (!(error instanceof Refusal)) {
      if (error instanceof Unreachable) return false;
      throw error;
    }
    const { newer } = error.answer;
    const why = error.status === 409 && newer ? "conflict" : "refused";
    if (error.status >= 500 || error.status === 403) return false;
    keepLine(job_id, {
      ...waitingLine(job_id),
      stopped: {
        why,
        words: why === "conflict" && newer ? newer.words : wordsFor(error),
        version: newer?.version ?? line.version,
      },
    });
    return false;
  }
}

/** Sends what waits as soon as there is a link, one after the other; stops where it must ask. */
export function useFlush(job_id: string, link: LinkWord): () => Promise<void> {
  const queries = useQueryClient();
  const running = useRef(false);
  const flush = useCallback(async () => {
    if (running.current) return;
    running.current = true;
    try {
      for (;;) {
        const { entries, stopped } = waitingLine(job_id);
        const first = entries[0];
        if (!first || stopped || !(await sendFirst(queries, job_id, first))) return;
      }
    } finally {
      running.current = false;
    }
  }, [job_id, queries]);
  useEffect(() => {
    void flush();
    const timer = setInterval(() => void flush(), TRY_MS);
    return () => clearInterval(timer);
  }, [flush]);
  useEffect(() => {
    if (link === "linked") void flush();
  }, [link, flush]);
  return flush;
}

/** Goes on after a question: the entry is based on what stands now, or on nothing new. */
export function goOn(job_id: string) {
  const line = waitingLine(job_id);
  keepLine(job_id, { ...line, version: line.stopped?.version ?? line.version, stopped: null });
}
