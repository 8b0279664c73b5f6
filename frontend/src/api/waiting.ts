import { createContext, useContext, useSyncExternalStore } from "react";
import type { Write } from "./types";

/** A write by its name and what it says, so that it can be kept and sent later. */
export type Sent = { name: string; body: unknown };
/** Kept on this device until the server has it. */
export type WaitingEntry = Sent & { key: string; words: string; made_ms: number };
/** Entries of a job in their order, the version that the first is based on, and what stopped them. */
export type WaitingLine = {
  version: number;
  entries: readonly WaitingEntry[];
  stopped: { why: "conflict" | "refused"; words: string; version: number } | null;
};

const NONE: WaitingLine = { version: 0, entries: [], stopped: null };
const MAKERS = new Map<string, (body: never) => Write>();
const sents = new WeakMap<Write, Sent & { says: (about: string) => string }>();
const listeners = new Set<() => void>();
const known = new Map<string, { text: string; line: WaitingLine }>();

/**
 * Makes a write one that can wait: it is known by a name, and says in words what it sends;
 * ``about`` is what the screen was about.
 */
export function canWait<B>(
  name: string,
  says: (body: B, about: string) => string,
  make: (body: B) => Write,
): (body: B) => Write {
  MAKERS.set(name, make as (body: never) => Write);
  return (body) => {
    const write = make(body);
    sents.set(write, { name, body, says: (about) => says(body, about) });
    return write;
  };
}

/** What a write would send, if it can wait. */
export const sentOf = (write: Write) => sents.get(write);

/** The write of a kept entry, made anew. */
export function writeOf(entry: Sent): Write {
  const make = MAKERS.get(entry.name);
  if (!make) throw new Error(`no write is called ${entry.name}`);
  return make(entry.body as never);
}

const place = (job_id: string) => `waiting:${job_id}`;

/** What waits for a job on this device. */
export function waitingLine(job_id: string): WaitingLine {
  const text = localStorage.getItem(place(job_id)) ?? "";
  const seen = known.get(job_id);
  if (seen?.text === text) return seen.line;
  const line = text ? (JSON.parse(text) as WaitingLine) : NONE;
  known.set(job_id, { text, line });
  return line;
}

/** Keeps a line, or forgets it when nothing waits in it. */
export function keepLine(job_id: string, line: WaitingLine) {
  if (line.entries.length === 0) localStorage.removeItem(place(job_id));
  else localStorage.setItem(place(job_id), JSON.stringify(line));
  for (const tell of listeners) tell();
}

/** Puts an entry at the end of its job's line; ``version`` counts where it is the first. */
export function hold(job_id: string, version: number, entry: WaitingEntry) {
  const line = waitingLine(job_id);
  keepLine(job_id, {
    ...line,
    version: line.entries.length > 0 ? line.version : version,
    entries: [...line.entries, entry],
  });
}

/** Takes one entry out; what stopped the line is forgotten with it. */
export function dropEntry(job_id: string, key: string) {
  const line = waitingLine(job_id);
  keepLine(job_id, {
    ...line,
    entries: line.entries.filter((e) => e.key !== key),
    stopped: null,
  });
}

/** What waits for a job, followed as it changes, in other tabs too. */
export const useWaiting = (job_id: string): WaitingLine =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      window.addEventListener("storage", tell);
      return () => {
        listeners.delete(tell);
        window.removeEventListener("storage", tell);
      };
    },
    () => waitingLine(job_id),
  );

/** How many entries wait on this device, of whatever job. */
export function waitingInAll(): number {
  const jobs = Object.keys(localStorage).filter((key) => key.startsWith(place("")));
  const counts = jobs.map((key) => waitingLine(key.slice(place("").length)).entries.length);
  return counts.reduce((sum, count) => sum + count, 0);
}

/** In words: “1 entry waits”, “3 entries wait”. */
export const waitWords = (count: number) =>
  count === 1 ? "1 entry waits" : `${count} entries wait`;

/** Where writes may wait: what they are about, in words; null elsewhere. */
export const Holding = createContext<string | null>(null);
export const useHolding = () => useContext(Holding);

/** A write that the server has not got: it waits on this device. */
export class Held extends Error {}
