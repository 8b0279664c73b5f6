import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { KeepView, Schemas } from "../../api/types";
import { figure, refusal, serve, showInJob } from "../../parts/testing";
import { field, ready, saved } from "../../parts/testingJob";
import { BackSheet } from "./BackSheet";
import { BlowsSheet } from "./BlowsSheet";
import { DueSheet } from "./DueSheet";
import { LogSheet } from "./LogSheet";
import { RecheckSheet } from "./RecheckSheet";

const DUE: Schemas["Due"] = {
  key: "re-check",
  label: "Re-check",
  words: "every joint by the wrench, cold",
  state: "now",
  verdict: "mind",
  left: "now, 120 km over",
  share: 1.2,
  km_left: -120,
  in_days: -9,
  is_forecast: true,
  reasons: ["Every 500 km, whichever comes first."],
  source: { text: "workshop practice", confidence: "medium" } as Schemas["Due"]["source"],
  put_off: "",
  may_put_off: true,
};
const MOMENT: Schemas["Moment"] = {
  seq: 12,
  at: "2026-05-30T17:30:00+00:00",
  km: 47350,
  kind: "counter",
  words: "counter at 47350 km",
  by: "",
  voided: "",
  may_void: true,
  photo: "",
};

const view = (more: Partial<KeepView> = {}): KeepView => ({
  oil_joints: ["a1"],
  lock_nuts: [],
  ready: ready(),
  plate: "Pan",
  fitted: true,
  due: {
    state: "due",
    words: "Re-check is due now, 120 km over.",
    short: "re-check due now",
    verdict: "mind",
    checks_left: [],
    findings: [],
    reasons: [],
    sources: [],
  },
  dues: [DUE],
  joints: [
    {
      recheck: {
        joint: { key: "a1", number: 1, name: "engine boss" } as never,
        target: figure("target", "18.0 N·m"),
        recorded: figure("recorded", "18.0 N·m"),
        found: null,
        verdict: "not known",
        words: "not re-checked yet",
      },
      low: figure("low", "16.0 N·m", 16),
      high: figure("high", "20.0 N·m", 20),
      points: [
        { at: "2026-05-01T10:00:00+00:00", torque: figure("at", "18.0 N·m", 18), what: "set" },
      ],
    },
  ],
  odometer: field("odometer_km", "counter", "18420"),
  customer: field("customer", "whose bike it is", ""),
  km: figure("km", "18 420 km"),
  now: "2026-11-28T12:00:00+00:00",
  moments: [MOMENT, { ...MOMENT, seq: 13, voided: "misread", may_void: false }],
  struck: {
    title: "",
    x: -200,
    y: 0,
    width: 400,
    height: 800,
    paths: [],
    circles: [],
    marks: [],
    dimensions: [],
    scale_bar_mm: 0,
  },
  blows: [],
  felt: ["thrown stone", "not felt"],
  mended: ["replaced", "straightened"],
  worn: [
    {
      place: "slider",
      points: [],
      limit_mm: 4,
      figures: [figure("left", "not known", null)],
      end_km: [null, null, null],
      reasons: [],
    },
  ],
  warmth: {
    hotter_c: null,
    fan_more_min: null,
    words: "not known: no reading",
    verdict: "not known",
  },
  mass_years: [],
  became: [
    {
      key: "money",
      label: "Money",
      weighed: figure("money", "189 crowns"),
      now: "12 crowns",
      verdict: "mind",
    },
  ],
  back: {
    steps: [{ title: "Joint 4, rear", text: "Hold the plate.", caution: "Fingers clear." }],
    bag: [],
    stays: [],
    gives_back: [figure("Mass", "−2.6 kg")],
  },
  looks: { leaks: "sump and drain", heads: "none ground off" },
  after_blow: ["leaks"],
  cautions: ["Support the bike."],
  debts: [],
  ...more,
});

function show(what: React.ReactNode, answer: () => unknown = saved, more: Partial<KeepView> = {}) {
  const seen = serve((asked) =>
    asked.method === "GET" ? { body: view(more) } : (answer() as never),
  );
  showInJob(what);
  return () => seen.filter((a) => a.method === "POST");
}

describe("keep", () => {
  it("says what is due first, why, and puts it off with a reason only", async () => {
    const posts = show(<DueSheet />);
    expect((await screen.findByTestId("due")).textContent).toContain("Re-check is due now");
    fireEvent.click(screen.getByRole("button", { name: /^Why/ }));
    expect(screen.getByText(/Every 500 km/)).toBeTruthy();
    const off = screen.getByRole("button", { name: "Put off" }) as HTMLButtonElement;
    expect(off.disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("because"), { target: { value: "no wrench here" } });
    fireEvent.change(screen.getByLabelText(/^put off until/), { target: { value: "20000" } });
    fireEvent.click(off);
    await waitFor(() => expect(posts()).toHaveLength(1));
    expect(posts()[0]?.body).toMatchObject({ due: "re-check", until_km: "20000" });
  });

  it("looks after a blow with one tap, and offers no way to put it off", async () => {
    const blow = { ...DUE, key: "blow:9", label: "Look after a blow", may_put_off: false };
    const posts = show(<DueSheet />, saved, { dues: [blow] });
    fireEvent.click(await screen.findByRole("button", { name: /^Why/ }));
    expect(screen.queryByRole("button", { name: "Put off" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "All well: leaks" }));
    await waitFor(() => expect(posts()[0]?.path).toBe("/api/jobs/j/keep/look"));
    expect(posts()[0]?.body).toMatchObject({ looked: ["leaks"], found: "" });
  });

  it("voids a line with its reason; a voided one stays and cannot be voided again", async () => {
    const posts = show(<DueSheet />);
    await screen.findByText(/voided: misread/);
    const voids = screen.getAllByRole("button", { name: /^Void/ });
    expect(voids).toHaveLength(1);
    fireEvent.click(voids[0] as HTMLElement);
    fireEvent.change(screen.getByLabelText("why it does not count"), {
      target: { value: "wrong" },
    });
    fireEvent.click(screen.getByRole("button", { name: "It does not count" }));
    await waitFor(() => expect(posts()[0]?.body).toMatchObject({ seq: 12, reason: "wrong" }));
  });

  it("records a joint that did not move by one tap, and one found with what it was tightened to", async () => {
    const posts = show(<RecheckSheet />);
    fireEvent.click(await screen.findByRole("button", { name: /^Did not move/ }));
    await waitFor(() => expect(posts()).toHaveLength(1));
    expect(posts()[0]?.body).toMatchObject({ joint: "a1", held: true });
    fireEvent.change(screen.getByLabelText("found on joint 1"), { target: { value: "12" } });
    fireEvent.change(screen.getByLabelText("tightened to"), { target: { value: "18" } });
    fireEvent.click(screen.getByRole("button", { name: "Record" }));
    await waitFor(() => expect(posts()).toHaveLength(2));
    expect(posts()[1]?.body).toMatchObject({ text: "12", tightened: "18", held: false });
  });

  it("keeps what was typed when it is refused, and says why", async () => {
    show(<RecheckSheet />, () => refusal("torque_nm", "lots is no number"));
    const entry = (await screen.findByLabelText("found on joint 1")) as HTMLInputElement;
    fireEvent.change(entry, { target: { value: "lots" } });
    fireEvent.keyDown(entry, { key: "Enter" });
    expect((await screen.findByRole("alert")).textContent).toContain("Lots is no number");
    expect(entry.value).toBe("lots");
  });

  it("offers no re-check before the plate is fitted", async () => {
    show(<RecheckSheet />, saved, { fitted: false });
    await screen.findByText(/not fitted yet/);
    expect(screen.queryByRole("button", { name: "Record" })).toBeNull();
  });

  it("logs a ride, a look and an oil change with what was looked at", async () => {
    const posts = show(<LogSheet />);
    fireEvent.change(await screen.findByLabelText("how far"), { target: { value: "85" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() => expect(posts()[0]?.path).toBe("/api/jobs/j/keep/ride"));
    expect(await screen.findByText(/Kept: done/)).toBeTruthy();
    expect(screen.queryByText("Support the bike.")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Oil change" }));
    expect(screen.getByText("Support the bike."), "cautions above the work").toBeTruthy();
    fireEvent.change(screen.getByLabelText("how long it took"), { target: { value: "35" } });
    fireEvent.click(screen.getByRole("checkbox", { name: /^leaks/ }));
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() => expect(posts()).toHaveLength(3));
    expect(posts()[1]).toMatchObject({ path: "/api/jobs/j/keep/oil", body: { minutes: "35" } });
    expect(posts()[2]).toMatchObject({
      path: "/api/jobs/j/keep/look",
      body: { looked: ["leaks"] },
    });
  });

  it("says so where the oil change is kept and what was looked at is not", async () => {
    let posts = 0;
    show(<LogSheet />, () => (posts++ === 0 ? saved() : refusal("looked", "too many at once")));
    fireEvent.click(await screen.findByRole("button", { name: "Oil change" }));
    fireEvent.click(screen.getByRole("checkbox", { name: /^leaks/ }));
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    const alert = await screen.findByRole("alert");
    expect(alert.textContent).toContain("The oil change is kept, what was looked at is not.");
    expect(alert.textContent).toContain("Too many at once");
  });

  it("notes a blow at a typed place", async () => {
    const posts = show(<BlowsSheet />);
    fireEvent.click(await screen.findByRole("button", { name: "Type the place instead" }));
    const form = within(screen.getByRole("region", { name: "A blow" }));
    fireEvent.click(form.getByRole("button", { name: "thrown stone" }));
    fireEvent.change(form.getByLabelText(/^behind the front axle/), { target: { value: "560" } });
    fireEvent.change(form.getByLabelText(/^dent, measured/), { target: { value: "2" } });
    fireEvent.click(form.getByRole("button", { name: "Keep this blow" }));
    await waitFor(() => expect(posts()).toHaveLength(1));
    expect(posts()[0]?.body).toMatchObject({ felt: "thrown stone", y_drawn: 560, dent: "2" });
  });

  it("looks back: what became of the choice, and the way back with its caution", async () => {
    show(<BackSheet />);
    expect(await screen.findByText("12 crowns")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Show the way back" }));
    expect(screen.getByText("Fingers clear.")).toBeTruthy();
  });
});
