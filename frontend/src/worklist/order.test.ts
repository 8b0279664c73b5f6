import { describe, expect, it } from "vitest";
import type { JobSummary } from "../api/types";
import { bikesOf, listed } from "./order";

const job = (id: string, more: Partial<JobSummary>): JobSummary => ({
  id,
  version: 1,
  title: id,
  place: "",
  changed: "2026-01-01T00:00:00",
  bike: "",
  customer: "",
  plate: "",
  stands: "",
  station: "survey",
  due: "",
  act_at: "survey",
  due_verdict: "sound",
  stations: [],
  cures_until: "",
  pending: false,
  trouble: "",
  ...more,
});

const JOBS = [
  job("c", { bike: "Brenn 440", due: "re-check joint 3", due_verdict: "mind" }),
  job("a", { bike: "Halde 700", changed: "2026-03-01T00:00:00" }),
  job("b", { bike: "Brenn 440", due_verdict: "blocked", title: "Über Stock" }),
  job("d", { place: "archived" }),
];
const ids = (asked: Partial<Parameters<typeof listed>[1]>) =>
  listed(JOBS, { place: "", words: "", bike: "", order: "entered", ...asked }).map((j) => j.id);

describe("the work list's order", () => {
  it("keeps the order in which jobs came, of one place", () => {
    expect(ids({})).toEqual(["c", "a", "b"]);
    expect(ids({ place: "archived" })).toEqual(["d"]);
  });
  it("puts what is blocked and due first", () => {
    expect(ids({ order: "due" })).toEqual(["b", "c", "a"]);
  });
  it("sorts by change and by name", () => {
    expect(ids({ order: "changed" })[0]).toBe("a");
    expect(ids({ order: "name" })).toEqual(["a", "c", "b"]);
  });
  it("finds every word, in any case, in title, bike and what is due", () => {
    expect(ids({ words: "BRENN joint" })).toEqual(["c"]);
    expect(ids({ words: "über" })).toEqual(["b"]);
    expect(ids({ words: "nothing like it" })).toEqual([]);
  });
  it("filters by bike and names each once", () => {
    expect(ids({ bike: "Halde 700" })).toEqual(["a"]);
    expect(bikesOf(JOBS)).toEqual(["Brenn 440", "Halde 700"]);
  });
});
