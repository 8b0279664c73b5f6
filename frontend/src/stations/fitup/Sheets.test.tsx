import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/types";
import { figure, refusal, serve, showInJob } from "../../parts/testing";
import { DRAWING, field, finding, saved } from "../../parts/testingJob";
import { ChangesSheet } from "./ChangesSheet";
import { HolesSheet } from "./HolesSheet";
import { NeighboursSheet } from "./NeighboursSheet";
import { OrderSheet } from "./OrderSheet";
import { PiecesSheet } from "./PiecesSheet";

const ROW: Schemas["HoleRowView"] = {
  key: "a1",
  number: 1,
  name: "front tab",
  verdict: "blocked",
  words: "as it hangs: 1.5 mm ± 0.6 mm short",
  clearance: figure("clearance", "0.5 mm"),
  moved: figure("moved", "-1.0 mm"),
  seen: true,
  measured: [field("candidates.p.joints.a1.seen.right_mm", "to the rider's right", "2")],
  gives: [field("candidates.p.joints.a1.seen.nut_gives_mm", "nut gives", "0")],
};
const HOLES: Schemas["HolesView"] = {
  plate: "Pan",
  material: "HDPE",
  drawing: DRAWING,
  rows: [ROW],
  verdict: "blocked",
  findings: [finding("screw will not start", "A screw is short by 1 mm.", "blocked")],
  margin: { ...figure("margin", "-1.0 mm"), value: -1 },
  unsure: figure("unsure", "0.6 mm"),
  move: "shift it 0.5 mm to the front",
  remedies: [{ kind: "open", joints: ["a1"], words: "Open hole 1 to 11 mm." }],
  located: 1,
  growing: [
    {
      number: 2,
      cold: figure("cold", "1.0 mm"),
      hot: figure("hot", "1.4 mm"),
      needed: figure("needed", "10.8 mm"),
      now: figure("now", "9.0 mm"),
      floats: false,
    },
  ],
  sheets: ["A4, upright"],
  cautions: [],
};
const ORDER: Schemas["OrderView"] = {
  plate: "Pan",
  gaps: [
    {
      key: "a1",
      number: 1,
      name: "front tab",
      gap: figure("gap", "4.0 mm"),
      reach: figure("reach", "12 mm"),
      words: "measured",
      eaten: { ...figure("eaten", "17 %"), value: 17 },
      fields: [field("candidates.p.joints.a1.seen.gap_mm", "gap", "4")],
    },
  ],
  schools: [
    {
      key: "best",
      label: "eats least preload",
      order: ["a1"],
      all_start: true,
      is_plan: false,
      against: [],
      most: figure("most", "180 N"),
      turns: [{ number: 1, starts: false, gap: figure("gap", "4.0 mm"), words: "180 N, 18 kg" }],
    },
  ],
  cures: ["A shim of 4 mm at joint 1."],
  findings: [],
  verdict: "mind",
  not_known: "",
  chosen: true,
};
const NEAR: Schemas["NeighboursView"] = {
  plate: "Pan",
  rows: [
    {
      key: "lever",
      name: "gear lever",
      state: "through its travel",
      gap: { ...figure("gap", "not looked at"), value: null },
      wanted: figure("wanted", "6 mm"),
      how: "not looked at",
      verdict: "not known",
      findings: [finding("gap not known", "Look how close it comes.", "not known")],
      film: null,
      looked: false,
      fields: [field("bike.neighbours.lever.from_deg", "from", "0")],
    },
  ],
  listed: 1,
  more_usual: false,
  verdict: "not known",
  boot: field("use.boot_toe_mm", "boot", ""),
  glove: field("use.glove_finger_mm", "glove", ""),
  cautions: ["With your own boot on."],
};
const CHANGES: Schemas["ChangesView"] = {
  outline: "",
  plate: "Pan",
  drawing: DRAWING,
  panels: ["belly"],
  joints: { a1: "1 front tab" },
  bends: { apron: "apron, now 42.0°" },
  sides: {},
  sleeves: { a1: "1 front tab, steel sleeve" },
  changes: [
    { key: "change", words: "trim the belly", why: "", caution: "Glasses on.", done: false },
  ],
  words_only: ["neighbour trimmed"],
  law: "Ask before cutting.",
};

function show(sheet: React.ReactElement, view: unknown, write: () => unknown = saved) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: view } : (write() as never)));
  showInJob(sheet);
  return seen;
}

const sent = (seen: { path: string; method: string; body?: unknown }[], end: string) =>
  waitFor(() => {
    const found = seen.find((a) => a.method === "POST" && a.path.endsWith(end));
    expect(found).toBeTruthy();
    return found?.body;
  });

/** Picks from the list under a label. */
function pick(label: string, words: string) {
  fireEvent.click(screen.getByRole("button", { name: new RegExp(`^${label}\\b`) }));
  fireEvent.click(screen.getByRole("option", { name: words }));
}

const PIECES: Schemas["PiecesView"] = {
  plate: "Pan",
  new: {
    parts: { "sub-plate": "Between plate and bike", "side guard": "Hangs on the edge" },
    mounts: { m1: "1 boss, M8", m2: "2 boss, M8", m3: "3 tab, M8" },
    sides: ["left", "right", "both"],
    materials: ["aluminium 5052-H32"],
    threads: ["M6", "M8"],
  },
  drawing: DRAWING,
  pieces: [
    { key: "", name: "Pan", fields: [] },
    {
      key: "tail",
      name: "tail guard",
      fields: [field("candidates.p.plate.pieces.tail.order", "is hung as number", "1")],
    },
  ],
  shared: [
    {
      key: "a1",
      number: 1,
      name: "front tab",
      sheets: ["Pan", "tail guard"],
      lacking: [{ piece: "tail", name: "tail guard" }],
    },
  ],
  sets: [
    {
      name: "wide",
      joints: "4, 5",
      is_used: false,
      is_best: true,
      spread: figure("spread", "80 mm"),
      worst: figure("worst", "75 N"),
      reach: "every one of 2 can be reached",
      reaches: "sound",
    },
    {
      name: "narrow",
      joints: "6, 7",
      is_used: true,
      is_best: false,
      spread: figure("spread", "30 mm"),
      worst: figure("worst", "180 N"),
      reach: "room at 6 not entered",
      reaches: "not known",
    },
  ],
  why: "Its worst screw takes least of a pull at the worst corner.",
  chosen: "narrow",
  findings: [finding("sheet not in the stack", "Joint 1 goes through two.", "not known")],
  verdict: "not known",
};

describe("the sheets of fit-up", () => {
  it("says which hole to open, and what grows", async () => {
    show(<HolesSheet />, HOLES);
    expect(await screen.findByText("A screw is short by 1 mm.")).toBeTruthy();
    expect(screen.getByText("Open hole 1 to 11 mm.")).toBeTruthy();
    expect(screen.getByText(/too tight/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "What gives at hole 1" }));
    expect(screen.getByLabelText(/nut gives/)).toBeTruthy();
  });

  it("says what is missing where no joint holds the plate", async () => {
    show(<HolesSheet />, { ...HOLES, rows: [] });
    expect(await screen.findByText(/build the joints first/)).toBeTruthy();
  });

  it("gives the plan an order, and takes it back", async () => {
    const seen = show(<OrderSheet />, ORDER);
    fireEvent.click(await screen.findByRole("button", { name: "Let the plan do this" }));
    expect(await sent(seen, "/order")).toMatchObject({ order: ["a1"] });
    expect(screen.getByText(/does not start/)).toBeTruthy();
    expect(screen.getByRole("button", { name: /work it out again/ })).toBeTruthy();
  });

  it("puts a shared sheet into a stack and takes another set of holes", async () => {
    const seen = show(<PiecesSheet />, PIECES);
    fireEvent.click(await screen.findByRole("button", { name: /Put the tail guard into/ }));
    expect(await sent(seen, "/stack")).toMatchObject({ joint: "a1", piece: "tail" });
    fireEvent.click(screen.getByRole("button", { name: "Use this set" }));
    expect(await sent(seen, "/hole-set")).toMatchObject({ name: "wide" });
    expect(screen.getByText("holds best")).toBeTruthy();
    expect(screen.getByLabelText(/is hung as number/)).toBeTruthy();
  });

  it("puts a sub-plate on its mounts, and a guard on both sides", async () => {
    const seen = show(<PiecesSheet />, PIECES);
    fireEvent.click(await screen.findByRole("button", { name: /Put a part on/ }));
    fireEvent.click(screen.getByRole("button", { name: "All 3 of them" }));
    fireEvent.click(screen.getByRole("button", { name: "Put it on" }));
    expect(await sent(seen, "/parts")).toMatchObject({
      part: "sub-plate",
      mounts: ["m1", "m2", "m3"],
      thickness: "",
    });
    fireEvent.click(await screen.findByRole("button", { name: /Put a part on/ }));
    pick("what it is", "side guard");
    expect(screen.queryByText(/three or more/)).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Put it on" }));
    await waitFor(() =>
      expect(seen.filter((a) => a.path.endsWith("/parts")).at(-1)?.body).toMatchObject({
        part: "side guard",
        side: "both",
        mounts: [],
      }),
    );
  });

  it("says what to do where a plate is one sheet with one set of holes", async () => {
    show(<PiecesSheet />, {
      ...PIECES,
      pieces: [{ key: "", name: "Pan", fields: [] }],
      shared: [],
      sets: [],
      why: "",
      chosen: "",
      findings: [],
      verdict: "sound",
    });
    expect(await screen.findByText(/This plate is one sheet/)).toBeTruthy();
    expect(screen.getByText(/No screw goes through two sheets/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Choose none/ })).toBeNull();
  });

  it("notes a pencil with one tap and says a refusal", async () => {
    const seen = show(<NeighboursSheet />, NEAR, () => refusal("gap_mm", "nothing was entered"));
    fireEvent.click(await screen.findByRole("button", { name: "A pencil passes" }));
    expect(await sent(seen, "/look")).toMatchObject({ looked_with: "a pencil passes" });
    expect((await screen.findByRole("alert")).textContent).toContain("othing was entered");
    expect(screen.queryByRole("button", { name: /List what/ })).toBeNull();
  });

  it("asks for no price before enough is said, and ticks what is carried out", async () => {
    const seen = show(<ChangesSheet />, CHANGES);
    await screen.findByText("Glasses on.");
    fireEvent.click(screen.getByRole("button", { name: "Type a place" }));
    expect(screen.getAllByLabelText(/place 1/)).toHaveLength(3);
    await new Promise((done) => setTimeout(done, 350));
    expect(seen.some((a) => a.path.endsWith("/try"))).toBe(false);
    fireEvent.click(screen.getByRole("switch", { name: /carried out/ }));
    expect(await sent(seen, "/done")).toMatchObject({ done: true });
  });

  it("bends a fold by degrees, or says in words what else is bent", async () => {
    const seen = show(<ChangesSheet />, CHANGES, () => refusal("turn_deg", "too far"));
    await screen.findByText("Glasses on.");
    pick("what", "a bend, more or less");
    expect(screen.getByLabelText("what is done")).toBeTruthy();
    pick("which", "apron, now 42.0°");
    expect(screen.queryByLabelText("what is done")).toBeNull();
    fireEvent.change(screen.getByLabelText(/bent up by/), { target: { value: "-4" } });
    expect(await sent(seen, "/try")).toMatchObject({ kind: "bend", panel: "apron", turn: "-4" });
    pick("what", "cut a sleeve to fit");
    fireEvent.click(screen.getByRole("switch", { name: /steel sleeve/ }));
    expect(screen.getByLabelText("cut to")).toBeTruthy();
  });
});
