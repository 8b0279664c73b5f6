import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Asked, FRAME, figure, serve, showInJob } from "../../parts/testing";
import { PrioritiesSheet } from "./PrioritiesSheet";

const WEIGHT = {
  path: "priorities.quiet",
  label: "quiet",
  kind: "number",
  metric: "2",
  us: "2",
  unit_metric: "",
  unit_us: "",
  allowed_metric: "0 to 10",
  allowed_us: "0 to 10",
  choices: [],
  known: "",
  note_metric: "",
  note_us: "",
  takes: "",
};
const VIEW = {
  ranking: [
    {
      key: "a",
      name: "Pan",
      rank: 1,
      score: figure("score", "70 %"),
      first: figure("first", "71 %"),
      pareto: true,
      missing: [],
      to_first: "first as it is",
      values: [figure("quiet", "20 %")],
      verdict: "blocked",
      reason: "Joint 3: hits neighbour.",
    },
  ],
  priorities: [WEIGHT],
  scales: ["0.8 s of ring counts nothing, 0.1 all"],
  shut_out: [{ key: "b", name: "Bars", reason: "Crash bars: none", clears: "a bundle" }],
  reasons: ["Pan scores 0.70."],
  findings: [],
  same: [],
  missing_of_all: [],
};
const run = (state: string, done: number, rank_shifts: string[] = []) => ({
  token: "0123456789abcdef",
  state,
  words: state === "running" ? "" : state,
  doing: "trying sump: underside",
  done,
  total: 4,
  rows: [],
  plates: [],
  rank_shifts,
});

describe("priorities", () => {
  it("names the ranking, what a gate keeps out, and moves a weight by button or slider", async () => {
    const sent: unknown[] = [];
    serve(({ path, method, body }: Asked) => {
      if (method === "PATCH") {
        sent.push(body);
        return { body: { version: 8, words: "done", frame: FRAME } };
      }
      return path.endsWith("/priorities") ? { body: VIEW } : undefined;
    });
    showInJob(<PrioritiesSheet />);
    await screen.findByText("Pan scores 0.70.");
    expect(screen.getByText(/Cleared by: a bundle/)).toBeTruthy();
    expect(screen.getByText(/as it is: Joint 3: hits neighbour/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "More: quiet" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ path: "priorities.quiet", text: "3" });
    const slider = screen.getByRole("slider", { name: "quiet" });
    fireEvent.change(slider, { target: { value: "9" } });
    fireEvent.keyUp(slider, { key: "ArrowRight" });
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ text: "9" }));
  });

  it("shows how far the trying is and what would turn the pick", async () => {
    let looks = 0;
    serve(({ path }: Asked) => {
      if (path.endsWith("/priorities")) return { body: VIEW };
      if (path.endsWith("/rank-shifts")) return { body: run("running", 0) };
      if (path.endsWith("/runs/0123456789abcdef")) {
        looks += 1;
        return looks < 3
          ? { body: run("running", looks) }
          : { body: run("done", 4, ["Sump, underside: at its low end the Tray would be first."]) };
      }
      return undefined;
    });
    showInJob(<PrioritiesSheet />);
    fireEvent.click(await screen.findByRole("button", { name: /Try every number/ }));
    await screen.findByText("trying sump: underside");
    expect(screen.getByRole("progressbar").getAttribute("max")).toBe("4");
    await screen.findByText(/the Tray would be first/, {}, { timeout: 3000 });
    expect(screen.queryByRole("progressbar")).toBeNull();
  });

  it("ends a run when asked and says so", async () => {
    let ended = false;
    serve(({ path }: Asked) => {
      if (path.endsWith("/priorities")) return { body: VIEW };
      if (path.endsWith("/rank-shifts")) return { body: run("running", 0) };
      if (path.endsWith("/cancel")) {
        ended = true;
        return { body: { ...run("cancelled", 1), words: "cancelled: what was done is shown" } };
      }
      return { body: ended ? run("cancelled", 1) : run("running", 1) };
    });
    showInJob(<PrioritiesSheet />);
    fireEvent.click(await screen.findByRole("button", { name: /Try every number/ }));
    fireEvent.click(await screen.findByRole("button", { name: "Cancel" }));
    await screen.findByText(/Cancelled/);
    expect(screen.getByRole("button", { name: "Try them all again" })).toBeTruthy();
  });
});
