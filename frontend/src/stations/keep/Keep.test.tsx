import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { KeepView } from "../../api/types";
import { figure, refusal, serve, showInJob } from "../../parts/testing";
import { field, saved } from "../../parts/testingJob";
import { Keep } from "./Keep";

const VIEW: KeepView = {
  plate: "Pan",
  due: {
    state: "first",
    words: "First re-check after the first ride.",
    short: "first",
    due_at_km: 18520,
    km_left: 100,
    checks_left: [],
    verdict: "mind",
    findings: [],
    reasons: ["A new joint settles."],
    sources: [],
  },
  joints: [
    {
      joint: { key: "a1", number: 1, name: "engine boss" } as KeepView["joints"][0]["joint"],
      target: figure("target", "18.0 N·m"),
      found: null,
      verdict: "not known",
      words: "not re-checked yet",
    },
  ],
  odometer: field("odometer_km", "counter", "18420"),
  km: figure("km", "18 420 km"),
  records: [],
  cautions: ["Look at the plate after every hard strike."],
  debts: [],
};

function show(answer: () => unknown) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: VIEW } : (answer() as never)));
  showInJob(<Keep />);
  return seen;
}

const line = async () => {
  await screen.findByText("engine boss");
  return within(document.querySelector("[data-recheck='a1']") as HTMLElement);
};

describe("what is due, and what was found", () => {
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
  });

  it("says what is due with its reasons; a joint never re-checked is not known", async () => {
    show(saved);
    expect((await screen.findByTestId("due")).textContent).toBe(VIEW.due.words);
    expect(screen.getByText("A new joint settles.")).toBeTruthy();
    expect((await line()).getByText("not known")).toBeTruthy();
  });

  it("sends a found torque as typed and clears the entry once it is kept", async () => {
    const seen = show(saved);
    const entry = (await line()).getByRole("textbox") as HTMLInputElement;
    fireEvent.change(entry, { target: { value: "15 ft·lb" } });
    fireEvent.click((await line()).getByRole("button", { name: "Record found torque" }));
    await waitFor(() => expect(entry.value).toBe(""));
    const sent = seen.find((a) => a.method === "POST");
    expect(sent?.path).toBe("/api/jobs/j/keep/found");
    expect(sent?.body).toMatchObject({ joint: "a1", text: "15 ft·lb", system: "metric" });
  });

  it("keeps what was typed when it is refused, and says why at its line", async () => {
    show(() => refusal("torque_nm", "lots is no number"));
    const entry = (await line()).getByRole("textbox") as HTMLInputElement;
    fireEvent.change(entry, { target: { value: "lots" } });
    fireEvent.keyDown(entry, { key: "Enter" });
    expect((await (await line()).findByRole("alert")).textContent).toContain("Lots is no number");
    expect(entry.value).toBe("lots");
  });

  it("notes the counter apart from the joints", async () => {
    const seen = show(saved);
    await line();
    const counter = within(screen.getByRole("region", { name: "Counter" }));
    fireEvent.change(counter.getByRole("textbox"), { target: { value: "18500" } });
    fireEvent.click(counter.getByRole("button", { name: "Note the counter" }));
    await waitFor(() => expect(seen.some((a) => a.path === "/api/jobs/j/keep/km")).toBe(true));
  });
});
