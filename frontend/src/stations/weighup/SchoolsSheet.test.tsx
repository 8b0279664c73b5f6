import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Asked, figure, serve, showInJob } from "../../parts/testing";
import { SchoolsSheet } from "./SchoolsSheet";

const SCHOOLS = {
  schools: [
    {
      key: "mounting",
      question: "Frame or engine?",
      note: "Riders differ.",
      struck: ["strike:mount"],
      options: [
        { label: "frame", stands_for: "Tray", figures: [figure("Mass", "4 kg")], plate: "t" },
        { label: "engine", stands_for: "Pan", figures: [figure("Mass", "3 kg")], plate: "p" },
        { label: "bars", stands_for: "", figures: [], plate: "" },
      ],
    },
  ],
};
const run = (state: string, plates: string[]) => ({
  token: "0123456789abcdef",
  state,
  words: state === "running" ? "" : state,
  doing: "striking the Tray",
  done: plates.length,
  total: 2,
  plates,
  rank_shifts: [],
  rows: [
    {
      key: "strike:mount",
      group: "Under a strike",
      label: "Worst mount",
      cells: plates.map((p) => figure("strike:mount", p === "t" ? "21 %" : "97 %")),
      best: [],
      worst: [],
    },
  ],
});

function server(looks: unknown[]) {
  let looked = 0;
  return ({ path }: Asked) => {
    if (path.endsWith("/schools")) return { body: SCHOOLS };
    if (path.includes("/runs/")) return { body: looks[Math.min(looked++, looks.length - 1)] };
    if (path.endsWith("/strike/all")) return { body: run("running", []) };
    if (path.endsWith("/weigh-up"))
      return { body: { use: [{ path: "use.strike_energy_j", metric: "80" }], columns: [] } };
    return undefined;
  };
}

describe("schools", () => {
  it("prices every way there is, and says where no plate stands for one", async () => {
    serve(server([]));
    showInJob(<SchoolsSheet />);
    const table = within(await screen.findByRole("region", { name: "Frame or engine?" }));
    expect(table.getByText("4 kg")).toBeTruthy();
    expect(table.getByText("no candidate of this kind")).toBeTruthy();
    expect(table.queryByText("Worst mount")).toBeNull();
  });

  it("puts each plate's strike under its own way; the rest is to come", async () => {
    const seen = serve(server([run("running", ["p"]), run("done", ["t", "p"])]));
    showInJob(<SchoolsSheet />);
    await screen.findByText("4 kg");
    fireEvent.click(screen.getByRole("button", { name: "Strike every plate" }));
    await screen.findByText("97 %");
    expect(screen.getByText("to come").closest("tr")?.textContent).toContain("frame");
    const asked = seen.find((a) => a.path.endsWith("/strike/all"));
    expect(asked?.body).toMatchObject({ energy: "80", direction: "from below" });
    await screen.findByText("21 %");
    expect(screen.getByText("97 %").closest("tr")?.textContent).toContain("engine");
    expect(screen.queryByText("to come")).toBeNull();
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Strike all plates again" })).toBeTruthy(),
    );
  });
});
