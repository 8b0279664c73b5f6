import type { JobSummary } from "../api/types";
import { holds } from "../parts/search";

export type Order = "entered" | "due" | "changed" | "name";

export const ORDERS: Record<Order, string> = {
  entered: "as they came",
  due: "what is due first",
  changed: "changed last",
  name: "by name",
};

const RANK = { blocked: 0, mind: 1, "not known": 2, assumed: 3, sound: 4 } as const;

const COMPARE: Record<Order, (a: JobSummary, b: JobSummary) => number> = {
  entered: () => 0,
  due: (a, b) => RANK[a.due_verdict] - RANK[b.due_verdict],
  changed: (a, b) => b.changed.localeCompare(a.changed),
  name: (a, b) => a.title.localeCompare(b.title),
};

/** The jobs of one place that hold every word looked for, in the order asked for. */
export function listed(
  jobs: readonly JobSummary[],
  asked: { place: string; words: string; bike: string; order: Order },
): JobSummary[] {
  return jobs
    .filter((job) => job.place === asked.place && (asked.bike === "" || job.bike === asked.bike))
    .filter((job) =>
      holds(`${job.title} ${job.bike} ${job.customer} ${job.plate} ${job.due}`, asked.words),
    )
    .sort(COMPARE[asked.order]);
}

/** Every bike of the list once, by name. */
export const bikesOf = (jobs: readonly JobSummary[]) =>
  [...new Set(jobs.map((job) => job.bike).filter(Boolean))].sort();
