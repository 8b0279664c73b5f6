import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { KitView } from "../../api/types";
import { type Asked, refusal, serve, showInJob } from "../../parts/testing";
import { kitLine, kitView, saved } from "../../parts/testingJob";
import { Kit } from "./Kit";

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
  it("shows no count where nothing was counted, and counts all that is not fitted already", async () => {
    const writes = show(kitView(), () => saved() as never);
    const line = await lineOf("k1");
    expect(line.getByText("–")).toBeTruthy();
    expect(line.getByText(/not counted/)).toBeTruthy();
    fireEvent.click(line.getByRole("button", { name: "all 3" }));
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect(writes()[0]?.body).toMatchObject({ line: "k1", text: "3", version: 7 });
  });

  it("counts on at once while presses follow each other, each on the version before it", async () => {
    let version = 7;
    const writes = show(kitView(), () => {
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
    show(kitView(), () => refusal("text", "A count is a whole number."));
    const line = await lineOf("k2");
    fireEvent.click(line.getByRole("button", { name: /One less/ }));
    expect((await line.findByRole("alert")).textContent).toContain("whole number");
    await waitFor(() => expect(line.getByRole("status").textContent).toBe("2"));
  });

  it("sends a new line as typed, and keeps what was typed when it is refused", async () => {
    const writes = show(kitView(), () => refusal("length", "5 m is too long"));
    fireEvent.click(await screen.findByRole("button", { name: "Add a line" }));
    fireEvent.change(screen.getByLabelText(/^length/), { target: { value: "5 m" } });
    fireEvent.click(screen.getByRole("button", { name: "Add this line" }));
    expect((await screen.findByRole("alert")).textContent).toContain("5 m is too long");
    expect(writes()[0]?.body).toMatchObject({ length: "5 m", thread: "M8", system: "metric" });
    expect((screen.getByLabelText(/^length/) as HTMLInputElement).value).toBe("5 m");
  });

  it("says that a list is empty", async () => {
    show(kitView({ lines: [] }), () => undefined);
    expect(await screen.findByText(/No line yet/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "True size" })).toBeNull();
  });

  it("marks look-alikes on both, and says what tells them apart", async () => {
    const alike = (key: string) => [{ key, name: `screw ${key}`, words: "5 mm apart in length" }];
    const lines = [
      kitLine("k1", {}, { alike: alike("k2") }),
      kitLine("k2", {}, { alike: alike("k1") }),
    ];
    show(kitView({ lines }), () => undefined);
    expect(await screen.findAllByText(/5 mm apart in length/)).toHaveLength(2);
  });

  it("lays lines out by bag, and counts all of a bag at a tap", async () => {
    const lines = [
      kitLine("k1", {}, { bag: "A" }),
      kitLine("k2", {}, { bag: "B" }),
      kitLine("k3", {}, { bag: "B", applies: false }),
    ];
    const writes = show(kitView({ lines }), () => saved() as never);
    await lineOf("k1");
    fireEvent.click(screen.getByRole("button", { name: /laid out/ }));
    fireEvent.click(await screen.findByRole("option", { name: "by bag" }));
    const bag = within(await screen.findByRole("region", { name: "Bag B" }));
    fireEvent.click(bag.getByRole("button", { name: "All of it is there" }));
    await waitFor(() => expect(writes()[0]?.body).toMatchObject({ lines: ["k2"] }));
  });

  it("shows one line at a time, from the first that is not counted", async () => {
    const lines = [kitLine("k1", { counted: 3, state: "matches" }), kitLine("k2")];
    show(kitView({ lines }), () => undefined);
    await lineOf("k1");
    fireEvent.click(screen.getByRole("button", { name: "One line at a time" }));
    expect(screen.getByText("line 2 of 2")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Line before" }));
    expect(screen.getByText("line 1 of 2")).toBeTruthy();
  });

  it("draws true size only after a ruler was held to the screen", async () => {
    show(kitView(), () => undefined);
    await lineOf("k1");
    fireEvent.click(screen.getByRole("button", { name: "True size" }));
    const wide = () => Number.parseFloat(screen.getByTestId("ruler").style.width);
    const before = wide();
    fireEvent.click(screen.getByRole("button", { name: "Much longer" }));
    expect(wide()).toBeCloseTo(before + 10, 5);
    fireEvent.click(screen.getByRole("button", { name: "It is as long" }));
    expect(Number(localStorage.getItem("shield-px-per-mm"))).toBeCloseTo((before + 10) / 85.6, 5);
    expect(screen.getByRole("button", { name: "True size: on" })).toBeTruthy();
    localStorage.clear();
  });
});
