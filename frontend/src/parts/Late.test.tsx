import { act, fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Code, Late } from "./Late";

const Kit = () => <h2>Kit</h2>;

describe("a screen whose code comes late", () => {
  it("is shown as soon as it is there, and at once when it was there before", async () => {
    let arrive = (_: typeof Kit) => {};
    const kit: Code = {
      load: () =>
        new Promise((done) => {
          arrive = done;
        }),
    };
    const shown = render(<Late code={kit} />);
    expect(screen.getByRole("status").textContent).toContain("Fetching");
    await act(async () => arrive(Kit));
    expect(screen.getByRole("heading").textContent).toBe("Kit");
    shown.unmount();
    render(<Late code={kit} />);
    expect(screen.getByRole("heading").textContent).toBe("Kit");
  });

  it("says that its code did not come, and tries again", async () => {
    let tries = 0;
    const kit: Code = {
      load: () => (tries++ === 0 ? Promise.reject(new Error("no link")) : Promise.resolve(Kit)),
    };
    await act(async () => void render(<Late code={kit} />));
    expect(screen.getByRole("alert")).toBeTruthy();
    await act(async () => void fireEvent.click(screen.getByText("Try again")));
    expect(screen.getByRole("heading").textContent).toBe("Kit");
  });

  it("gives way to another that is not there yet", async () => {
    const kit: Code = { load: () => Promise.resolve(Kit) };
    const other: Code = { load: () => new Promise(() => {}) };
    const shown = render(<Late code={kit} />);
    await act(async () => {});
    shown.rerender(<Late code={other} />);
    expect(screen.queryByRole("heading")).toBeNull();
    expect(screen.getByRole("status").textContent).toContain("Fetching");
  });
});
