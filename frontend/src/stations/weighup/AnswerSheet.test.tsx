import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Asked, figure, serve, showInJob } from "../../parts/testing";
import { AnswerSheet } from "./AnswerSheet";

const NONE = {
  state: "no plates",
  missing: "No plate to choose from yet: enter one you could buy.",
  key: "",
  name: "",
  beside: "",
  reasons: [],
  gives_away: null,
  costs: [],
  shielded: null,
  bare: "",
  gravest: null,
  also: [],
  of_all: [],
  sure: null,
  runner_up: "",
  blocked: [],
};
const ONE = {
  ...NONE,
  state: "one plate",
  missing: "",
  key: "pan",
  name: "Pan",
  reasons: [{ words: "Protects more: 58 %, Stock 0 %.", behind: figure("Shielded", "58 %") }],
  costs: [figure("Money", "129 crowns")],
  bare: "No part that matters is bare from below.",
  runner_up: "It is the only one that nothing blocks.",
};

const RUN = {
  token: "0123456789abcdef",
  state: "done",
  words: "done",
  doing: "",
  done: 2,
  total: 2,
  plates: [],
  rank_shifts: [],
  rows: [],
};

function server(answer: unknown, words = "") {
  return ({ path }: Asked) => {
    if (path.endsWith("/measure")) return { body: { words, path: "bike.parts.sump.z_min_mm" } };
    if (path.endsWith("/wait")) return { body: { plates: 0 } };
    if (path.endsWith("/answer"))
      return { body: { answer, taken: "", taken_name: "", made_of: "4 mm", picture: null } };
    if (path.includes("/runs/") || path.endsWith("/rank-shifts")) return { body: RUN };
    return undefined;
  };
}

describe("answer", () => {
  it.each([
    ["no plates", "Enter a plate", "first"],
    ["nothing matters", "Say what matters", "weigh-up/priorities"],
    ["all blocked", "Compare them", "weigh-up/compare"],
  ])("says what is missing and leads there: %s", async (state, words, to) => {
    serve(server({ ...NONE, state }));
    showInJob(<AnswerSheet />);
    const link = await screen.findByRole("link", { name: words });
    expect(link.getAttribute("href")).toContain(to);
    expect(screen.getByText("None yet.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Take/ })).toBeNull();
  });

  it("claims no sureness of the only one, and nothing against it that is not known", async () => {
    serve(server(ONE));
    showInJob(<AnswerSheet />);
    expect(await screen.findByText(/the only one that nothing blocks/)).toBeTruthy();
    expect(screen.getByText("Nothing that is known.")).toBeTruthy();
    expect(await screen.findByText(/no number that is not measured would change/)).toBeTruthy();
  });

  it("leads to the field of the one measurement", async () => {
    serve(server(ONE, "Sump, bottom: at its low end the Tray would be first. Measure it."));
    showInJob(<AnswerSheet />);
    const link = await screen.findByRole("link", { name: "Enter it" });
    expect(link.getAttribute("href")).toContain("survey?part=sump");
  });
});
