import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { hold, waitingLine } from "../api/waiting";
import { FRAME, refusal, serve, showInJob } from "../parts/testing";
import { saved, step, tightenView } from "../parts/testingJob";
import Garage from "./Garage";

type Ask = { method: string; path: string; body: unknown };
const entry = (key: string, step: string) => ({
  name: "step",
  body: { step, done: true },
  key,
  words: step,
  made_ms: Date.now() - 5000,
});

/** A server that counts each key once, as ours does, and can be out of reach. */
function bench(refuse: (asked: Ask) => unknown = () => undefined, view = tightenView()) {
  const state = { reachable: true, version: 7, taken: [] as string[] };
  const seen = serve((asked) => {
    if (!state.reachable) throw new TypeError("no network");
    const frame = { ...FRAME, version: state.version };
    if (asked.method === "GET") return { body: asked.path.endsWith("/tighten") ? view : frame };
    const no = refuse(asked);
    if (no) return no as never;
    const { key, version } = asked.body as { key: string; version: number };
    if (!state.taken.includes(key)) {
      expect(version, "each is based on the one before").toBe(state.version);
      state.taken.push(key);
      state.version += 1;
    }
    const answer = saved({ version: state.version });
    return { body: { ...answer.body, version: state.version } };
  });
  return { state, posts: () => seen.filter((a) => a.method === "POST") };
}

describe("what waits on a device", () => {
  it("keeps an entry that found no server, behind those that wait, and sends each once", async () => {
    const { state, posts } = bench();
    showInJob(<Garage />);
    await screen.findByRole("heading", { level: 1 });
    state.reachable = false;
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    await waitFor(() => expect(waitingLine("j").entries).toHaveLength(1));
    await waitFor(() =>
      expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("Start joint 1 by hand"),
    );
    fireEvent.click(screen.getByRole("button", { name: "Started by hand" }));
    await waitFor(() => expect(waitingLine("j").entries).toHaveLength(2));
    fireEvent.click(screen.getByRole("button", { name: "2 entries wait on this device" }));
    expect(screen.getByTestId("waiting").textContent).toContain("Start joint 1 by hand");
    const before = posts().length;
    state.reachable = true;
    cleanup();
    showInJob(<Garage />);
    await waitFor(() => expect(waitingLine("j").entries).toHaveLength(0));
    expect(state.taken).toHaveLength(2);
    expect(posts().slice(before)[0]?.body).toMatchObject({ step: "prepare", done: true });
    expect(posts().slice(before)[1]?.body).toMatchObject({ joint: "a1" });
  });

  it("names each by what it is about, several at one tap too", async () => {
    const steps = ["a5", "a6", "a7"].map((joint) =>
      step(`half:${joint}`, "half", `Draw joint ${joint} to half`),
    );
    const { state } = bench(undefined, tightenView({ steps }));
    showInJob(<Garage />);
    await screen.findByRole("heading", { level: 1 });
    state.reachable = false;
    screen.getByRole("button", { name: "All 3 are drawn to half" });
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    await screen.findByRole("heading", { name: "Draw joint a6 to half" });
    fireEvent.click(screen.getByRole("button", { name: "All 2 are drawn to half" }));
    await waitFor(() => expect(waitingLine("j").entries).toHaveLength(3));
    expect(waitingLine("j").entries.map((e) => e.words)).toEqual([
      "Draw joint a5 to half",
      "Draw joint a6 to half",
      "Draw joint a7 to half",
    ]);
  });

  it("asks where something was changed meanwhile, and drops or records as told", async () => {
    let asked = 0;
    const newer = { version: 9, value: "", words: "joint 2 was taken back" };
    const stale = { ...refusal("version", "changed"), status: 409 };
    stale.body = { ...stale.body, newer } as never;
    const { state } = bench(() => (asked++ === 0 ? stale : undefined));
    state.version = 9;
    hold("j", 7, entry("key-one-1", "prepare"));
    hold("j", 7, entry("key-two-2", "sweep"));
    showInJob(<Garage />);
    expect((await screen.findByRole("alert")).textContent).toContain("joint 2 was taken back");
    expect(state.taken, "nothing goes on unasked").toEqual([]);
    fireEvent.click(screen.getByRole("button", { name: "Record mine too" }));
    await waitFor(() => expect(state.taken).toEqual(["key-one-1", "key-two-2"]));
    expect(waitingLine("j").entries).toEqual([]);
  });

  it("says what the server does not take, and drops it on request", async () => {
    const { state } = bench((a) =>
      (a.body as { step?: string }).step === "prepare"
        ? refusal("step", "start joint 2 first")
        : undefined,
    );
    hold("j", 7, entry("key-one-1", "prepare"));
    hold("j", 7, entry("key-two-2", "sweep"));
    showInJob(<Garage />);
    expect((await screen.findByRole("alert")).textContent).toContain("Start joint 2 first");
    fireEvent.click(screen.getByRole("button", { name: "Drop mine" }));
    await waitFor(() => expect(state.taken).toEqual(["key-two-2"]));
  });
});
