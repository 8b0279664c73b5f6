import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Questions } from "./Questions";

const QUESTIONS = ["one", "two", "three"].map((key) => ({
  key,
  title: `Question ${key}?`,
  ask: <input aria-label={key} />,
}));

function show(wide: boolean, send = vi.fn()) {
  vi.stubGlobal("matchMedia", () => ({
    matches: wide,
    addEventListener: () => {},
    removeEventListener: () => {},
  }));
  render(
    <Questions
      questions={QUESTIONS}
      last="Done"
      lastBusy="Doing …"
      send={send}
      busy={false}
      trouble=""
    />,
  );
  return send;
}

const titles = () => screen.getAllByRole("heading").map((h) => h.textContent);
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

describe("questions", () => {
  it("stand beside each other where there is room, and are sent at once", () => {
    const send = show(true);
    expect(titles()).toHaveLength(3);
    press("Done");
    expect(send).toHaveBeenCalledOnce();
  });

  it("come one by one on a phone, back and forth, each from its title", () => {
    const send = show(false);
    expect(titles()).toEqual(["Question one?"]);
    expect(screen.queryByRole("button", { name: "Done" })).toBeNull();
    press("Next");
    expect(document.activeElement?.textContent).toBe("Question two?");
    press("Back");
    expect(titles()).toEqual(["Question one?"]);
    press("Next");
    press("Next");
    expect(screen.getByText("3 of 3")).toBeTruthy();
    expect(send).not.toHaveBeenCalled();
    press("Done");
    expect(send).toHaveBeenCalledOnce();
  });
});
