import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { PlateColumn, QuantityRow } from "../../api/types";
import { figure } from "../../parts/testing";
import { DRAWING } from "../../parts/testingJob";
import { Rows } from "./Rows";

const gate = (key: string, verdict: "sound" | "blocked") => ({
  key,
  label: `gate ${key}`,
  verdict,
  code: verdict === "blocked" ? ("does not fit" as const) : null,
  reason: "because",
  clears: "",
  needs: "",
});

const column = (key: string, shut: boolean): PlateColumn => ({
  key,
  name: `plate ${key}`,
  role: key === "stock" ? "stock" : "candidate",
  material: "HDPE",
  form: "flat",
  mounting: "frame",
  verdict: "sound",
  reason: "",
  findings: [],
  picked: false,
  in_hand: key === "a",
  fields: [],
  gates: [gate("year", "sound"), gate("bars", shut ? "blocked" : "sound")],
  bought: [],
  picture: DRAWING,
});
const COLUMNS = [column("stock", false), column("a", false), column("b", true)];
const row = (key: string, group: string, best: string[] = []): QuantityRow => ({
  key,
  group,
  label: `row ${key}`,
  cells: COLUMNS.map((c) => figure(`${key}:${c.key}`, `${key} of ${c.key}`)),
  best,
  worst: best.length ? ["b"] : [],
});
const ROWS = [row("mass", "Weight", ["a"]), row("money", "Money")];

let opened = "";
function show(struck: QuantityRow[] = [], plates: string[] = []) {
  render(
    <table>
      <Rows
        rows={ROWS}
        struck={struck}
        struckPlates={plates}
        columns={COLUMNS}
        open={(key) => {
          opened = key;
        }}
      />
    </table>,
  );
}

const rowOf = (key: string) => {
  const found = document.querySelector(`[data-row='${key}']`);
  if (!found) throw new Error(`no row ${key}`);
  return found as HTMLElement;
};

describe("the rows of the comparison", () => {
  beforeEach(() => localStorage.clear());
  it("says best and worst by word, stock apart", () => {
    show();
    const cells = within(rowOf("mass")).getAllByRole("cell");
    expect(cells.map((c) => c.textContent)).toEqual([
      "mass of stock",
      "mass of abest",
      "mass of bworst",
    ]);
    expect(within(rowOf("money")).queryByText("best")).toBeNull();
  });

  it("folds a group and remembers it", () => {
    show();
    fireEvent.click(screen.getByRole("button", { name: "Money" }));
    expect(document.querySelector("[data-row='money']")).toBeNull();
    cleanup();
    show();
    expect(document.querySelector("[data-row='money']")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Money" }));
    expect(rowOf("money")).toBeTruthy();
  });

  it("pins a row to the top and takes it down again", () => {
    show();
    const pin = screen.getByRole("button", { name: "Pin “row money” to the top" });
    fireEvent.click(pin);
    expect(screen.getByRole("button", { name: "Pinned" })).toBeTruthy();
    expect(document.querySelectorAll("[data-row='money']").length).toBe(2);
    for (const each of screen.getAllByRole("button", { name: "Pin “row money” to the top" }))
      expect(each.getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(
      screen.getAllByRole("button", { name: "Pin “row money” to the top" })[0] as HTMLElement,
    );
    expect(screen.queryByRole("button", { name: "Pinned" })).toBeNull();
  });

  it("shows a shut gate with its word and opens its plate; open ones stand in one line", () => {
    show();
    fireEvent.click(screen.getByRole("button", { name: /gate bars of plate b: blocked/ }));
    expect(opened).toBe("b");
    expect(screen.getByText(/Every plate passes: gate year/)).toBeTruthy();
  });

  it("puts the cells of a map under their plates while others are still to come", () => {
    const strike = { ...row("strike:touch", "Under a strike"), cells: [figure("x", "12 J")] };
    show([strike], ["b"]);
    const cells = within(rowOf("strike:touch")).getAllByRole("cell");
    expect(cells.map((c) => c.textContent)).toEqual(["to come", "to come", "12 J"]);
  });
});
