import { describe, expect, it } from "vitest";
import { holds } from "./search";

describe("a search in a list", () => {
  it("wants every word, in any order and case", () => {
    expect(holds("Brenn 440, cradle frame", "FRAME brenn")).toBe(true);
    expect(holds("Brenn 440, cradle frame", "brenn 700")).toBe(false);
    expect(holds("Łąka 300", "łĄka")).toBe(true);
  });
  it("holds always where nothing is looked for", () => {
    expect(holds("anything", "  ")).toBe(true);
    expect(holds("", "")).toBe(true);
  });
});
