import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { KitView } from "../../api/types";
import { type Asked, refusal, serve, showInJob } from "../../parts/testing";
import { kitLine, saved } from "../../parts/testingJob";
import { Kit } from "./Kit";

const view = (more: Partial<KitView> = {}): KitView => ({
  plate: "Pan",
  lines: [kitLine("k1"), kitLine("k2", { counted: 2, state: "short", verdict: "blocked" })],
  buy: [],
  kinds: ["screw", "washer"],
  threads: ["M6", "M8"],
  heads: ["ISO 4762"],
  head_forms: ["cylinder", "button"],
  grades: ["8.8"],
  ...more,
});

const lineOf = async (key: string) => {
  await screen.findByText(`screw ${key}`);
  return within(document.querySelector(`[data-line='${key}']`) as HTMLElement);
};

function show(kit: KitView, write: (asked: Asked) => ReturnType<typeof refusal> | undefined) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: kit } : write(asked)));
  showInJob(<Kit />);
  return seen.filter.bind(seen, (asked: Asked) => asked.method !== "GET");
}

describe("the kit on the bench", () => {
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
  });

  it("shows no count where nothing was counted, and counts all that is not fitted already", async () => {
    const writes = show(view(), () => saved() as never);
    const line = await lineOf("k1");
    expect(line.getByText("–")).toBeTruthy();
    expect(line.getByText(/not counted/)).toBeTruthy();
    fireEvent.click(line.getByRole("button", { name: "all 3" }));
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect(writes()[0]?.body).toMatchObject({ line: "k1", text: "3", version: 7 });
  });

  it("counts on at once while presses follow each other, each on the version before it", async () => {
    let version = 7;
    const writes = show(view(), () => {
      version += 1;
      return saved({ version }) as never;
    });
    const line = await lineOf("k2");
    const more = line.getByRole("button", { name: /One more/ });
    fireEvent.click(more);
    fireEvent.click(more);
    expect(line.getByRole("status").textContent).toBe("4");
    await waitFor(() => expect(writes()).toHaveLength(2));
    expect(writes().map((w) => w.body)).toMatchObject([
      { text: "3", version: 7 },
      { text: "4", version: 8 },
    ]);
  });

  it("says a refusal at its line and goes back to what is stored", async () => {
    show(view(), () => refusal("text", "A count is a whole number."));
    const line = await lineOf("k2");
    fireEvent.click(line.getByRole("button", { name: /One less/ }));
    expect((await line.findByRole("alert")).textContent).toContain("whole number");
    await waitFor(() => expect(line.getByRole("status").textContent).toBe("2"));
  });

  it("sends a new line as typed, and keeps what was typed when it is refused", async () => {
    const writes = show(view(), () => refusal("length", "5 m is too long"));
    fireEvent.click(await screen.findByRole("button", { name: "Add a line" }));
    fireEvent.change(screen.getByLabelText(/^length/), { target: { value: "5 m" } });
    fireEvent.click(screen.getByRole("button", { name: "Add this line" }));
    expect((await screen.findByRole("alert")).textContent).toContain("5 m is too long");
    expect(writes()[0]?.body).toMatchObject({ length: "5 m", thread: "M8", system: "metric" });
    expect((screen.getByLabelText(/^length/) as HTMLInputElement).value).toBe("5 m");
  });

  it("says that a list is empty, and what has to be bought", async () => {
    show(
      view({ lines: [], buy: [{ thread: "M8", length_mm: 40, head: "ISO 4762", joint: 3 }] }),
      () => undefined,
    );
    expect(await screen.findByText(/No line yet/)).toBeTruthy();
    expect(screen.getByText(/M8 × 40 ISO 4762 for joint 3/)).toBeTruthy();
  });
});
