import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { type Asked, serve, showInJob } from "../../parts/testing";
import { saved } from "../../parts/testingJob";
import { Identify } from "./Identify";

const line = (key: string, difference = "") => ({
  key,
  name: `screw ${key}`,
  size: "M8 × 30",
  head: "ISO 4762",
  counted: 2,
  difference,
  drawing: null,
});
const ANSWER = {
  agree: [line("k1"), line("k2", "5.0 mm longer")],
  told_apart: false,
  measure_next: "length_mm",
  words: "It may be 2 lines. Read the length.",
  foreign: [],
};

function show(answer: object = ANSWER) {
  const seen = serve((asked) => {
    if (asked.path.endsWith("/instruments")) return { body: { instruments: [] } };
    if (asked.path.endsWith("/identify")) return { body: answer };
    return saved() as never;
  });
  const onNew = vi.fn();
  showInJob(<Identify forms={["cylinder"]} close={() => undefined} onNew={onNew} />);
  const of = (end: string) => seen.filter((asked: Asked) => asked.path.endsWith(end));
  return { of, onNew };
}

const read = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("a screw in the hand", () => {
  it("asks nothing before something was read", async () => {
    const { of } = show();
    await new Promise((go) => setTimeout(go, 300));
    expect(of("/identify")).toHaveLength(0);
    expect(screen.queryByTestId("identified")).toBeNull();
  });

  it("says what to read next, and counts on the line that it is", async () => {
    const { of } = show();
    read("diameter of the thread", "7.86");
    await screen.findByText("It may be 2 lines. Read the length.");
    expect(of("/identify").at(-1)?.body).toMatchObject({ diameter: "7.86", system: "metric" });
    expect(screen.getByText("5.0 mm longer")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "It is this: screw k2, one more" }));
    await waitFor(() => expect(of("/count")).toHaveLength(1));
    expect(of("/count")[0]?.body).toMatchObject({ line: "k2", text: "3" });
    await waitFor(() => expect(screen.queryByTestId("identified")).toBeNull());
    expect((screen.getByLabelText("diameter of the thread") as HTMLInputElement).value).toBe("");
  });

  it("hands a foreign screw on as a new line", async () => {
    const { onNew } = show({ ...ANSWER, agree: [], foreign: ["5/16-18 UNC"], words: "No line" });
    read("diameter of the thread", "7.85");
    read("length", "31.7");
    await screen.findByText("No line");
    fireEvent.click(screen.getByRole("button", { name: "This is not on the list" }));
    expect(onNew).toHaveBeenCalledWith({ thread: "5/16-18 UNC", length: "31.7" });
  });
});
