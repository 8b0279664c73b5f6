import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { FitupView, JointDetail, LayerView } from "../../api/types";
import { figure, refusal, serve, showInJob } from "../../parts/testing";
import { DRAWING, field, finding, saved } from "../../parts/testingJob";
import { Fitup } from "./Fitup";

const VIEW: FitupView = {
  plate: "Pan",
  joints: [
    {
      key: "a1",
      number: 1,
      name: "engine boss",
      side: "left",
      screw: "M8 × 30",
      verdict: "blocked",
      reason: "bottoms",
    },
  ],
  not_here: [],
  mounts: { m1: "engine boss" },
  pieces: {},
  treatments: { "dry zinc": "dry, zinc as delivered", "anti-seize": "anti-seize" },
  presets: { "through nut": "through nut" },
  threads: ["M8"],
  stages: { stiff: "stiff mounts" },
  layer_kinds: ["plate", "washer", "spacer"],
  layer_materials: ["steel", "rubber"],
  first_layer: field("thickness_mm", "thickness", "3"),
};

const layer = (key: string, kind: string, more: Partial<LayerView> = {}): LayerView => ({
  key,
  kind,
  name: kind,
  material: "steel",
  thickness: figure("thickness", "5 mm"),
  left_out: false,
  fixed: kind === "plate",
  removable: kind !== "plate",
  fields: [field(`candidates.p.joints.a1.layers.${key}.thickness_mm`, "thickness", "5")],
  ...more,
});

const JOINT: JointDetail = {
  key: "a1",
  number: 1,
  name: "engine boss",
  verdict: "blocked",
  findings: [finding("bottoms", "The screw bottoms by 0.4 mm.", "blocked")],
  section: DRAWING,
  far: [],
  wants_sink: false,
  sink: [],
  length_mm: 30,
  is_stud: false,
  length_is: "in hand",
  chosen_mm: 30,
  needed_mm: 25,
  allowed_mm: 29,
  shaded_mm: [{ start_mm: 25, end_mm: 29 }],
  lengths: [
    { length_mm: 25, verdict: "sound", in_hand: false, chosen: false },
    { length_mm: 30, verdict: "blocked", in_hand: true, chosen: true },
  ],
  figures: [figure("grip", "18.6 mm")],
  layers: [layer("plate", "plate"), layer("spacer", "spacer")],
  placing: [],
  stands_in: [],
  layer_places: { head: "under the head" },
  layer_place: "head",
  threads_into: "a part of its own",
  female: [],
  fields: [],
  pair: {
    key: "a2",
    number: 2,
    name: "engine boss, right",
    differences: [],
    odd: "Both sides were given the same, though their mounts differ.",
  },
};

function show(joint: JointDetail = JOINT, write: () => unknown = saved, fitup = VIEW) {
  const seen = serve((asked) => {
    if (asked.method !== "GET") return write() as never;
    return { body: asked.path.endsWith("/fit-up") ? fitup : joint };
  });
  showInJob(<Fitup />);
  return seen;
}

const row = async (key: string) => {
  await screen.findByText("The screw bottoms by 0.4 mm.");
  return within(document.querySelector(`[data-layer='${key}']`) as HTMLElement);
};

describe("all joints", () => {
  it("are told once what the sheet says of all", async () => {
    const two = [...VIEW.joints, { ...VIEW.joints[0], key: "a2" } as never];
    const seen = show(JOINT, saved, { ...VIEW, joints: two });
    fireEvent.click(await screen.findByRole("button", { name: "Say it once for all joints" }));
    fireEvent.click(screen.getByRole("button", { name: /^on every thread/ }));
    fireEvent.click(screen.getByRole("option", { name: "anti-seize" }));
    fireEvent.change(screen.getByLabelText(/printed torques by size/), {
      target: { value: "M6 10, M8 20" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Say it for all 2" }));
    await waitFor(() =>
      expect(seen.find((a) => a.path.endsWith("/joints/all"))?.body).toMatchObject({
        treatment: "anti-seize",
        torques: "M6 10, M8 20",
      }),
    );
  });
});

describe("a new joint", () => {
  it("between two parts asks for no mount and needs no place", async () => {
    const seen = show(JOINT, saved, { ...VIEW, pieces: { guard: "side guard" } });
    fireEvent.click(await screen.findByRole("button", { name: "Build a joint of your own" }));
    expect(screen.getByText(/none ticked: at a place of your own/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /^what it holds/ }));
    fireEvent.click(screen.getByRole("option", { name: "the side guard to the plate" }));
    expect(screen.queryByText(/none ticked/)).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Build this joint" }));
    await waitFor(() =>
      expect(seen.find((a) => a.path.endsWith("/fit-up/joints"))?.body).toMatchObject({
        joins: "guard",
        mount: "",
        x: "",
        stage: "bench",
      }),
    );
  });
});

describe("a joint and its layers", () => {
  it("says why a joint is blocked, and opens the first joint by itself", async () => {
    show();
    expect(await screen.findByText("The screw bottoms by 0.4 mm.")).toBeTruthy();
    expect(screen.getByRole("link", { current: true }).textContent).toContain("engine boss");
  });

  it("says what is odd about two sides", async () => {
    show();
    expect(await screen.findByText(/Both sides were given the same/)).toBeTruthy();
    expect(screen.getByRole("link", { name: /joint 2/ }).getAttribute("href")).toContain("/a2");
  });

  it("takes out what the server says can be taken out: never the plate", async () => {
    const seen = show();
    expect((await row("plate")).queryByRole("button", { name: "Take this layer out" })).toBeNull();
    fireEvent.click((await row("spacer")).getByRole("button", { name: "Take this layer out" }));
    await waitFor(() =>
      expect(seen.map((a) => a.path)).toContain(
        "/api/jobs/j/fit-up/joints/a1/layers/spacer/remove",
      ),
    );
  });

  it("adds a layer as typed and says a refusal where it was typed", async () => {
    const seen = show(JOINT, () => refusal("thickness", "500 mm is too thick"));
    await row("plate");
    const add = screen.getByRole("button", { name: "Add this layer" });
    const section = within(add.closest("div") as HTMLElement);
    fireEvent.change(section.getAllByRole("textbox").at(-1) as HTMLElement, {
      target: { value: "500" },
    });
    fireEvent.click(add);
    expect((await screen.findByRole("alert")).textContent).toContain("500 mm is too thick");
    const sent = seen.find((a) => a.method === "POST");
    expect(sent?.body).toMatchObject({ kind: "spacer", material: "steel", thickness: "500" });
  });

  it("offers to build a joint where the plate has none", async () => {
    show(JOINT, saved, { ...VIEW, joints: [] });
    expect(await screen.findByText(/No joint yet/)).toBeTruthy();
    expect(screen.getByRole("region", { name: "New joint" })).toBeTruthy();
  });
});
