import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { TightenView } from "../../api/types";
import { figure, serve, showInJob } from "../../parts/testing";
import { card, finding, saved, tightenView } from "../../parts/testingJob";
import { Tighten } from "./Tighten";

const WRENCH = {
  key: "wrench",
  kind: "wrench",
  name: "wrench",
  state: "stable",
  shown: "18.2",
  unit: "N·m",
  step: 0.1,
  trouble: "",
  bad_lines: 0,
  simulated: false,
};

function show(view: TightenView, instruments: unknown[] = []) {
  const seen = serve((asked) => {
    if (asked.path === "/api/instruments") return { body: { instruments } };
    return asked.method === "GET" ? { body: view } : saved();
  });
  showInJob(<Tighten />);
  return seen;
}

const READ = {
  ...figure("reading", "26.0 N·m"),
  verdict: "blocked" as const,
  findings: [finding("outside band", "26.0 N·m is above the least limit.", "blocked")],
};
const LINE = { seq: 15, at: "2026-11-21T14:00:00+00:00", overridden: false, reason: "", by: "" };

describe("the torque card", () => {
  it("shows target, band and the source that decides", async () => {
    show(tightenView());
    expect(await screen.findByRole("article", { name: "Torque card of joint 1" })).toBeTruthy();
    expect(screen.getByText("Bike manual").className).toContain("font-semibold");
    expect(screen.getByText("The manual decides.")).toBeTruthy();
    expect(screen.queryByRole("region", { name: "Record" })).toBeNull();
  });

  it("says where each joint stands in the order", async () => {
    const cards = [card("a1", 1, { state: "above its limit", reading: READ }), card("a2", 2)];
    show(tightenView({ cards: [...cards, card("a3", 3, { state: "torqued", reading: READ })] }));
    const order = (await screen.findByRole("list", { name: "Joints in order" })).children;
    const words = /above its limit|not started|torqued/;
    expect([...order].map((item) => item.textContent?.match(words)?.[0])).toEqual([
      "above its limit",
      "not started",
      "torqued",
    ]);
  });

  it("takes a reading of one joint again, from its card", async () => {
    const seen = show(tightenView());
    const entry = await screen.findByLabelText(/^reading, band/);
    fireEvent.change(entry, { target: { value: "18" } });
    fireEvent.click(screen.getByRole("button", { name: "Record reading" }));
    await waitFor(() => expect(seen.some((a) => a.method === "POST")).toBe(true));
    expect(seen.find((a) => a.method === "POST")?.body).toMatchObject({ joint: "a1", text: "18" });
  });

  it("shows a reading above its limit in the core's words and takes it back by its line", async () => {
    const history = [
      { ...LINE, seq: 13, kind: "reading" as const, torque: figure("r", "25.0 N·m") },
      { ...LINE, seq: 14, kind: "taken back" as const, torque: figure("r", "25.0 N·m") },
      { ...LINE, kind: "reading" as const, torque: figure("r", "26.0 N·m"), overridden: true },
    ];
    const seen = show(tightenView({ cards: [card("a1", 1, { reading: READ, history })] }));
    expect(await screen.findByText(/above the least limit/)).toBeTruthy();
    expect(screen.getByText(/not all were started/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText("why it is taken back"), {
      target: { value: "slipped" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Take this reading back" }));
    await waitFor(() => expect(seen.some((a) => a.method === "POST")).toBe(true));
    expect(seen.find((a) => a.method === "POST")?.body).toMatchObject({
      seq: 15,
      reason: "slipped",
    });
  });

  it("says why each is at its turn and moves one without refusing", async () => {
    const turn = (joint: string, earlier: string[], later: string[]) => ({
      joint,
      reason: `why ${joint}`,
      earlier,
      later,
    });
    const school = {
      key: "rear" as const,
      label: "rear first",
      reason: "The rear bears most.",
      order: ["a2", "a1"],
      starts: [],
    };
    const order = {
      turns: [turn("a1", [], ["a2", "a1"]), turn("a2", ["a2", "a1"], [])],
      against: ["Joint 1 comes before joint 2."],
      schools: [{ school, taken: false }],
      starts: [],
      dry_fit: tightenView().order.dry_fit,
      by_hand: true,
    };
    const seen = show(tightenView({ order }));
    expect(await screen.findByText("why a2")).toBeTruthy();
    expect(screen.getByText("Joint 1 comes before joint 2.")).toBeTruthy();
    expect(screen.getByText("Put in this order by hand.")).toBeTruthy();
    const earlier = screen.getByRole<HTMLButtonElement>("button", {
      name: "joint 1 one turn earlier",
    });
    expect(earlier.disabled).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: "joint 2 one turn earlier" }));
    await waitFor(() => expect(seen.some((a) => a.method === "POST")).toBe(true));
    expect(seen.find((a) => a.method === "POST")?.body).toMatchObject({ order: ["a2", "a1"] });
  });

  it("puts a linked wrench's reading to the joint that is next, or to the one named", async () => {
    const seen = show(tightenView(), [WRENCH]);
    expect(await screen.findByText("18.2")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Record it at joint 1" }));
    await waitFor(() => expect(seen.some((a) => a.method === "POST")).toBe(true));
    const sent = seen.find((a) => a.method === "POST");
    expect(sent?.path).toMatch(/tighten\/wrench$/);
    expect(sent?.body).toMatchObject({ joint: "", override: "" });
  });

  it("asks for no wrench where none is linked", async () => {
    show(tightenView());
    expect(await screen.findByRole("list", { name: "Joints in order" })).toBeTruthy();
    expect(screen.queryByRole("region", { name: "Linked wrench" })).toBeNull();
  });

  it("opens no garage before a plate is picked", async () => {
    show(tightenView({ picked: false }));
    expect(await screen.findByText(/No plate is picked yet/)).toBeTruthy();
    expect(screen.queryByRole("link", { name: "Open garage mode" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Record reading" })).toBeNull();
  });
});
