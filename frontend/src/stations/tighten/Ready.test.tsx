import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { TightenView } from "../../api/types";
import { figure, refusal, serve, showInJob } from "../../parts/testing";
import { saved, tightenView } from "../../parts/testingJob";
import { OpenRegister } from "./OpenRegister";
import { ReadyPanel } from "./ReadyPanel";

function show(what: React.ReactElement, write: () => unknown = saved) {
  const seen = serve((asked) => (asked.method === "GET" ? { body: {} } : (write() as never)));
  showInJob(what);
  return seen;
}

const sent = (seen: { path: string; body?: unknown }[], end: string) =>
  waitFor(() => {
    const found = seen.find((a) => a.path.endsWith(end));
    expect(found).toBeTruthy();
    return found?.body;
  });

const PEG = {
  joint: "bike-1",
  name: "foot-peg bolt",
  what: "screw",
  since: "2026-01-01T10:00:00+00:00",
  manual: figure("manual", "44 N·m"),
} as const;

const open = (more: Partial<TightenView>) => <OpenRegister view={tightenView(more)} />;

describe("what is open on the bike, and whether it can be ridden", () => {
  it("opens what is known with one tap, and anything by its name", async () => {
    const seen = show(open({}));
    fireEvent.click(screen.getByRole("button", { name: "I loosened something else" }));
    fireEvent.click(screen.getByRole("button", { name: "exhaust spring" }));
    expect(await sent(seen, "/loosened")).toMatchObject({ name: "exhaust spring", what: "spring" });
  });

  it("closes a screw by its torque and says a refusal where it was typed", async () => {
    const seen = show(open({ open: [PEG] }), () => refusal("torque_nm", "not the manual's"));
    fireEvent.change(screen.getByLabelText("torque of the foot-peg bolt"), {
      target: { value: "20" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Closed" }));
    expect(await sent(seen, "/closed")).toMatchObject({ joint: "bike-1", text: "20" });
    expect((await screen.findByRole("alert")).textContent).toContain("ot the manual");
  });

  it("closes a hose with one tap", async () => {
    const seen = show(open({ open: [{ ...PEG, what: "hose", name: "vapour hose" }] }));
    fireEvent.click(screen.getByRole("button", { name: /back on/ }));
    expect(await sent(seen, "/closed")).toMatchObject({ how: "back on, its clip closed" });
  });

  it("says what is missing, and keeps a reason only when there is one", async () => {
    const seen = show(
      <ReadyPanel
        view={tightenView({
          clocks: [
            { joint: "a1", number: 1, kind: "cure", since: "", until: "", set_before: false },
            {
              joint: "a2",
              number: 2,
              kind: "cure",
              since: "",
              until: "2001-01-01T00:00:00+00:00",
              set_before: false,
            },
          ],
        })}
      />,
    );
    expect(screen.getByText("Not ready to ride")).toBeTruthy();
    expect(screen.getByText(/not known when its locker holds/)).toBeTruthy();
    expect(screen.getByText(/its locker holds$/)).toBeTruthy();
    const keep = screen.getByRole("button", { name: "Keep this reason", hidden: true });
    expect((keep as HTMLButtonElement).disabled).toBe(true);
    fireEvent.change(screen.getByLabelText(/because/), { target: { value: "to the workshop" } });
    fireEvent.click(keep);
    expect(await sent(seen, "/ride-anyway")).toMatchObject({ reason: "to the workshop" });
  });
});
