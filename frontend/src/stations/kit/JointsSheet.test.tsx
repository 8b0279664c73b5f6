import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { KitView, Schemas } from "../../api/types";
import { type Asked, serve, showInJob } from "../../parts/testing";
import { finding, kitLine, kitView, saved } from "../../parts/testingJob";
import { JointsSheet } from "./JointsSheet";

type Joint = Schemas["KitJointView"];

const joint = (more: Partial<Joint> = {}): Joint => ({
  key: "j1",
  number: 1,
  name: "front tab, left",
  side: "left",
  proposed: true,
  verdict: "not known",
  words: [],
  places: [
    {
      part: "screw",
      what: "M8 × 30",
      kind: "screw",
      line: "k1",
      could: ["k1", "k2"],
      debt: "",
      drawing: null,
    },
    {
      part: "washer",
      what: "washer M8",
      kind: "washer",
      line: "",
      could: [],
      debt: "",
      drawing: null,
    },
  ],
  ...more,
});

const debt: Schemas["Debt"] = {
  key: "d1",
  joint: 1,
  joint_key: "j1",
  joint_name: "front tab, left",
  part: "screw",
  used: "stock screw",
  instead_of: "M8 × 30",
  owed: true,
  paid: false,
  for_good: false,
  replace_by: "",
  note: "",
  verdict: "blocked",
  findings: [finding("too short", "Too short by 4 mm.", "blocked")],
  limit_nm: 20,
  was_nm: 22,
};

function show(kit: KitView) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: kit } : (saved() as never)));
  showInJob(<JointsSheet />);
  return () => seen.filter((asked: Asked) => asked.method !== "GET");
}

describe("which part goes where", () => {
  it("says which line serves a place, and what is in none", async () => {
    show(kitView({ joints: [joint()] }));
    const card = within(await screen.findByRole("list", { name: "Parts of joint 1" }));
    expect(card.getByText(/screw k1 M8 × 30 of the list/)).toBeTruthy();
    expect(card.getByText(/in no line of the list: to buy/)).toBeTruthy();
  });

  it("puts another line to a place", async () => {
    const writes = show(kitView({ joints: [joint()] }));
    fireEvent.click(await screen.findByRole("button", { name: /line for screw of joint 1/ }));
    fireEvent.click(await screen.findByRole("option", { name: /screw k2/ }));
    await waitFor(() =>
      expect(writes()[0]?.body).toMatchObject({ line: "k2", joint: "j1", part: "screw" }),
    );
  });

  it("confirms a joint that was only proposed, or all of them", async () => {
    const writes = show(kitView({ joints: [joint(), joint({ key: "j2", number: 2 })] }));
    fireEvent.click((await screen.findAllByRole("button", { name: "It is right" }))[0] as Element);
    await waitFor(() => expect(writes()[0]?.body).toMatchObject({ joint: "j1" }));
    fireEvent.click(screen.getByRole("button", { name: /All 2 proposed/ }));
    await waitFor(() => expect(writes()[1]?.body).toMatchObject({ joint: "" }));
  });

  it("uses something else instead, as typed", async () => {
    const writes = show(kitView({ joints: [joint()] }));
    fireEvent.click(await screen.findByRole("button", { name: /Use another washer/ }));
    const form = within(screen.getByRole("region", { name: "Joint 1, instead of washer M8" }));
    fireEvent.change(form.getByLabelText("what is used"), { target: { value: "inch washer" } });
    fireEvent.change(form.getByLabelText("hole"), { target: { value: "8.7" } });
    fireEvent.click(form.getByRole("button", { name: "Use it" }));
    await waitFor(() =>
      expect(writes()[0]?.body).toMatchObject({
        joint: "j1",
        part: "washer",
        name: "inch washer",
        hole: "8.7",
        for_good: false,
      }),
    );
  });

  it("shows what is owed with its verdict, and pays it with a tap", async () => {
    const writes = show(kitView({ joints: [joint()], debts: [debt] }));
    const list = within(await screen.findByRole("region", { name: "Substitutes" }));
    expect(list.getByText("Too short by 4 mm.")).toBeTruthy();
    fireEvent.click(list.getByRole("button", { name: "Its own part is in" }));
    await waitFor(() => expect(writes()[0]?.path).toContain("/substitutes/d1/pay"));
  });

  it("offers to propose joints only where a screw and a free mount are there", async () => {
    show(kitView({ lines: [kitLine("k1")], free_mounts: 2 }));
    expect(await screen.findByRole("button", { name: /Propose joints/ })).toBeTruthy();
    cleanup();
    show(kitView({ lines: [], free_mounts: 2 }));
    expect(await screen.findByText(/No joint yet/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Propose joints/ })).toBeNull();
  });
});
