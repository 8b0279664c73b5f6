import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Marks } from "./Marks";

const at = (ref: string, x: number, y: number) => ({ ref, x, y, text: ref, kind: "part", alt: "" });
/** As the core lists them; on the drawing the tab is in front, the two rails beside each other. */
const MARKS = [at("right", 60, 40), at("left", 10, 40), at("tab", 30, 5)] as never;

function show(onPick?: (ref: string) => void, picked = "") {
  return render(
    <svg aria-label="below">
      <Marks
        marks={MARKS}
        mm={1}
        picked={picked}
        done={undefined}
        onPick={onPick}
        names={{ tab: "front tab" }}
        narrow={false}
      />
    </svg>,
  );
}

const stops = () =>
  screen
    .getAllByRole("button")
    .filter((e) => e.getAttribute("tabindex") === "0")
    .map((e) => e.getAttribute("data-mark"));

describe("the marks of a drawing", () => {
  it("are one stop of the Tab key, from the front down and left to right", () => {
    show(vi.fn());
    const all = screen.getAllByRole("button").map((e) => e.getAttribute("data-mark"));
    expect(all).toEqual(["tab", "left", "right"]);
    expect(stops()).toEqual(["tab"]);
    expect(screen.getByRole("button", { name: "tab, front tab" })).toBeTruthy();
  });

  it("go from one to the next by arrow keys, and stop at the ends", () => {
    const pick = vi.fn();
    show(pick);
    const focused = () => document.activeElement?.getAttribute("data-mark");
    screen.getByRole("button", { name: /tab/ }).focus();
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowDown" });
    expect(focused()).toBe("left");
    fireEvent.keyDown(document.activeElement as Element, { key: "End" });
    expect(focused()).toBe("right");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowRight" });
    expect(focused()).toBe("right");
    fireEvent.keyDown(document.activeElement as Element, { key: "Enter" });
    expect(pick).toHaveBeenCalledWith("right");
    expect(stops()).toEqual(["right"]);
  });

  it("begin at what is picked, and are no stops where nothing can be", () => {
    show(vi.fn(), "left");
    expect(stops()).toEqual(["left"]);
    cleanup();
    show();
    expect(screen.queryAllByRole("button")).toEqual([]);
  });
});
