import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Asked, FRAME, figure, refusal, serve, showInJob } from "../../parts/testing";
import { WhatIfSheet } from "./WhatIfSheet";

const ROW = {
  key: "mass",
  label: "Mass",
  before: figure("mass", "3 kg"),
  after: figure("mass", "4 kg"),
  change: figure("mass", "+1 kg"),
  better: "worse",
};
const view = (words: string) => ({
  plate: "Pan",
  plate_key: "a",
  words,
  rows: [ROW],
  ledger: [],
  gates: [],
  findings: [],
  verdict: "mind",
  plates: { stock: "Stock", a: "Pan" },
  sliders: ["HDPE"],
  materials: ["HDPE"],
  joints: { j1: "1 front", j2: "2 rear" },
  cutouts: ["drain"],
  wings: true,
});
const STRIKE = {
  drawing: {
    title: "map",
    x: 0,
    y: 0,
    width: 10,
    height: 10,
    paths: [],
    circles: [],
    marks: [],
    dimensions: [],
    scale_bar_mm: 0,
  },
  shades: [],
  rows: [],
  trouble: "The original has no map.",
};

function answer({ path, body }: Asked) {
  if (path.endsWith("/what-if/strike")) return { body: STRIKE };
  if (path.endsWith("/what-if/keep"))
    return { body: { version: 8, words: "Pan: 8 mm kept as a candidate", frame: FRAME } };
  if (path.endsWith("/what-if")) {
    const { thickness } = body as { thickness: string };
    if (thickness === "99") return refusal("thickness_mm", "99 mm is too thick");
    return { body: view(thickness ? `${thickness} mm` : "copy") };
  }
  return undefined;
}

describe("a what-if", () => {
  it("asks while typing and shows before, after and the change", async () => {
    const seen = serve(answer);
    showInJob(<WhatIfSheet />);
    await screen.findByText("Pan: copy");
    expect(screen.getByText("+1 kg worse")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("thickness"), { target: { value: "8" } });
    await screen.findByText("Pan: 8 mm");
    expect(await screen.findByText("The original has no map.")).toBeTruthy();
    const asked = seen.filter((a) => a.path.endsWith("/what-if")).at(-1);
    expect(asked?.body).toMatchObject({ thickness: "8", system: "metric", mount_change: "" });
    expect(seen.every((a) => !a.path.endsWith("/keep"))).toBe(true);
  });

  it("keeps the last good answer beside a refusal, and cannot be kept then", async () => {
    serve(answer);
    showInJob(<WhatIfSheet />);
    await screen.findByText("Pan: copy");
    fireEvent.change(screen.getByLabelText("thickness"), { target: { value: "99" } });
    await screen.findByText(/99 mm is too thick/);
    expect(screen.getByText("+1 kg worse")).toBeTruthy();
    const keep = screen.getByRole("button", { name: "Keep as a candidate" });
    expect(keep.getAttribute("aria-disabled")).toBe("true");
  });

  it("keeps the copy only when asked", async () => {
    const seen = serve(answer);
    showInJob(<WhatIfSheet />);
    await screen.findByText("Pan: copy");
    fireEvent.change(screen.getByLabelText("thickness"), { target: { value: "8" } });
    await screen.findByText("Pan: 8 mm");
    fireEvent.click(screen.getByRole("button", { name: "Keep as a candidate" }));
    await screen.findByText("Pan: 8 mm kept as a candidate.");
    const kept = seen.find((a) => a.path.endsWith("/keep"));
    expect(kept?.body).toMatchObject({ version: 7, asked: { thickness: "8" } });
  });

  it("asks at which joints before anything soft is put in", async () => {
    const seen = serve(answer);
    showInJob(<WhatIfSheet />);
    await screen.findByText("Pan: copy");
    fireEvent.click(screen.getByRole("button", { name: /mounts/ }));
    fireEvent.click(await screen.findByRole("option", { name: "isolators under …" }));
    await screen.findByText("at these joints");
    expect(
      seen.every((a) => (a.body as { mount_change?: string }).mount_change !== "isolator"),
    ).toBe(true);
    fireEvent.click(screen.getByRole("switch", { name: "1 front" }));
    await waitFor(() =>
      expect(seen.at(-1)?.body).toMatchObject({ mount_change: "isolator", joints: ["j1"] }),
    );
  });

  it("asks for the stiffness before a known one is tried", async () => {
    const seen = serve(answer);
    showInJob(<WhatIfSheet />);
    await screen.findByText("Pan: copy");
    fireEvent.click(screen.getByRole("button", { name: /mounts/ }));
    fireEvent.click(await screen.findByRole("option", { name: "a known stiffness at …" }));
    fireEvent.click(await screen.findByRole("switch", { name: "1 front" }));
    await waitFor(() =>
      expect(seen.at(-1)?.body).toMatchObject({ joints: ["j1"], mount_change: "" }),
    );
    fireEvent.change(screen.getByLabelText("stiffness along the screw"), {
      target: { value: "900" },
    });
    await waitFor(() =>
      expect(seen.at(-1)?.body).toMatchObject({
        mount_change: "spring",
        spring: "900",
        joints: ["j1"],
      }),
    );
  });
});
