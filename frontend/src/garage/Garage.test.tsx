import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { TightenView } from "../api/types";
import { figure, refusal, serve, showInJob } from "../parts/testing";
import { saved, step, tightenView } from "../parts/testingJob";
import Garage from "./Garage";

function show(view: TightenView, answer: () => unknown = saved) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: view } : (answer() as never)));
  showInJob(<Garage />);
  return () => seen.filter((a) => a.method === "POST");
}

const title = () => screen.findByRole("heading", { level: 1 });

describe("garage mode", () => {
  it("opens at the step that comes next and goes on when it is done", async () => {
    const writes = show(tightenView());
    expect((await title()).textContent).toBe("Support the bike");
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    await waitFor(async () => expect((await title()).textContent).toBe("Start joint 1 by hand"));
    expect(writes()[0]?.body).toMatchObject({ step: "prepare", done: true });
    fireEvent.click(screen.getByRole("button", { name: "Started by hand" }));
    await waitFor(async () => expect((await title()).textContent).toBe("Torque joint 1"));
    expect(writes()[1]?.body).toMatchObject({ joint: "a1" });
  });

  it("does not go on when the server refuses, and says why", async () => {
    show(tightenView(), () => refusal("step", "Clean the threads first."));
    await title();
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Clean the threads first.");
    expect((await title()).textContent).toBe("Support the bike");
  });

  it("keeps a step shut that waits for another", async () => {
    const steps = [step("half:a1", "half", "Draw joint 1", { allowed: "Start joint 2 first." })];
    const writes = show(tightenView({ steps }));
    await title();
    expect(screen.getByText("Start joint 2 first.")).toBeTruthy();
    const done = screen.getByRole("button", { name: "Done" }) as HTMLButtonElement;
    expect(done.disabled).toBe(true);
    fireEvent.click(done);
    expect(writes()).toEqual([]);
  });

  it("takes a reading with the reason for going on all the same", async () => {
    const full = { allowed: "Joint 2 is not started.", setting: figure("setting", "18.0 N·m") };
    const writes = show(tightenView({ steps: [step("full:a1", "full", "Torque joint 1", full)] }));
    await title();
    fireEvent.change(screen.getByLabelText(/^go on all the same/), { target: { value: "no nut" } });
    fireEvent.change(screen.getByLabelText(/^reading, band/), { target: { value: "18" } });
    fireEvent.click(screen.getByRole("button", { name: "Record reading" }));
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect(writes()[0]?.body).toMatchObject({ joint: "a1", text: "18", override: "no nut" });
  });

  it("stops at a torque above the limit until a new screw is in or a reason is given", async () => {
    const steps = [step("full:a1", "full", "Torque joint 1"), step("sweep", "task", "Sweep")];
    const view = tightenView({ steps });
    const text = "40 N·m is above 28.4 N·m: the screw may be stretched.";
    const found = { code: "torqued above its limit", verdict: "blocked", text, where: "a1" };
    const nm = { ...figure("reading", "40.0 N·m"), findings: [found as never] };
    view.cards = view.cards.map((c) => ({
      ...c,
      reading: nm,
      over: [9],
    }));
    const writes = show(view);
    await title();
    expect((await screen.findByRole("alert")).textContent).toContain("Stop");
    fireEvent.change(screen.getByLabelText(/^reading, band/), { target: { value: "40" } });
    fireEvent.click(screen.getByRole("button", { name: "Record reading" }));
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect((await title()).textContent, "it does not jump on").toBe("Torque joint 1");
    fireEvent.click(screen.getByRole("button", { name: /^A new screw is in/ }));
    await waitFor(() => expect(writes()).toHaveLength(2));
    expect(writes()[1]).toMatchObject({ body: { joint: "a1" } });
    expect(writes()[1]?.path).toContain("/renewed");
    fireEvent.click(screen.getByRole("button", { name: "I mistyped it" }));
    await waitFor(() => expect(writes()).toHaveLength(3));
    expect(writes()[2]?.body).toMatchObject({ seq: 9, reason: "mistyped" });
    const keep = screen.getByRole("button", { name: "Keep it" }) as HTMLButtonElement;
    expect(keep.disabled).toBe(true);
    fireEvent.change(screen.getByLabelText(/^or it stands/), { target: { value: "12.9 screw" } });
    fireEvent.click(keep);
    await waitFor(() => expect(writes()).toHaveLength(4));
    expect(writes()[3]?.body).toMatchObject({
      code: "torqued above its limit",
      about: "a1",
      reason: "12.9 screw",
    });
  });

  it("walks by arrow keys and ends at both ends", async () => {
    show(tightenView());
    await title();
    for (let i = 0; i < 5; i++) fireEvent.keyDown(document.body, { key: "ArrowRight" });
    expect((await title()).textContent).toBe("Torque joint 1");
    expect((screen.getByRole("button", { name: "Next" }) as HTMLButtonElement).disabled).toBe(true);
    for (let i = 0; i < 5; i++) fireEvent.keyDown(document.body, { key: "ArrowLeft" });
    expect((await title()).textContent).toBe("Support the bike");
  });

  it("says that a plate has no steps", async () => {
    show(tightenView({ steps: [] }));
    expect(await screen.findByText("This plate has no steps.")).toBeTruthy();
  });
});
