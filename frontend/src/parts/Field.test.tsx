import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { FieldView } from "../api/types";
import { Field } from "./Field";
import { UnitsProvider } from "./units";

const FIELD: FieldView = {
  path: "candidates.a.plate.thickness_mm",
  name: "thickness_mm",
  axis: "",
  label: "thickness",
  kind: "number",
  metric: "5",
  us: "0.197",
  unit_metric: "mm",
  unit_us: "in",
  allowed_metric: "a number from 0.5 mm to 25.0 mm",
  allowed_us: "a number from 0.020 in to 0.984 in",
  choices: [],
  known: "assumed",
  note_metric: "assumed ± 0.2 mm",
  note_us: "assumed ± 0.008 in",
  takes: "mm",
};

type Sent = { version: number; key: string; path: string; text: string; system: string };
let sent: Sent[] = [];
let answers: (() => Response | Promise<never>)[] = [];

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "Content-Type": "application/json" },
  });
const frame = (version: number) => ({ id: "j", version, ledger: [], stations: [] });
const saved = (version: number) => () =>
  json(200, { version, words: "done", frame: frame(version) });
const gone = () => Promise.reject(new TypeError("no network"));
const refused =
  (status: number, newer: unknown = null) =>
  () =>
    json(status, {
      error: {
        field: FIELD.path,
        value: "99",
        allowed: FIELD.allowed_metric,
        message: "99 mm is too large",
        remedy: `Enter ${FIELD.allowed_metric}.`,
        reference: "",
      },
      newer,
    });

/** Puts another value under the field, as a screen does that follows other devices. */
let follow: (metric: string) => void;
function Shown() {
  const [metric, setMetric] = useState(FIELD.metric);
  follow = setMetric;
  return <Field field={{ ...FIELD, metric }} />;
}

function show() {
  const queries = new QueryClient();
  queries.setQueryData(["frame", "j"], frame(7));
  render(
    <QueryClientProvider client={queries}>
      <UnitsProvider>
        <MemoryRouter initialEntries={["/jobs/j"]}>
          <Routes>
            <Route path="/jobs/:job" element={<Shown />} />
          </Routes>
        </MemoryRouter>
      </UnitsProvider>
    </QueryClientProvider>,
  );
  return screen.getByLabelText("thickness") as HTMLInputElement;
}

const type = (input: HTMLInputElement, text: string) => {
  fireEvent.change(input, { target: { value: text } });
  fireEvent.keyDown(input, { key: "Enter" });
};

beforeEach(() => {
  sent = [];
  localStorage.clear();
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push((await request.json()) as Sent);
    const next = answers.shift();
    if (!next) throw new Error("not expected");
    return next();
  });
});

describe("a field", () => {
  it("saves what was typed, on the version known, with a key", async () => {
    answers = [saved(8)];
    type(show(), "6");
    await screen.findByText("saved");
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ version: 7, path: FIELD.path, text: "6", system: "metric" });
    expect(sent[0]?.key).toMatch(/^[0-9a-f]{24}$/);
  });

  it("shows why a value is refused, and what was kept", async () => {
    answers = [refused(422)];
    const input = show();
    type(input, "99");
    const alert = await screen.findByRole("alert");
    expect(alert.textContent).toContain("99 mm is too large");
    expect(alert.textContent).toContain("0.5 mm to 25.0 mm");
    expect(input.value).toBe("99");
    fireEvent.click(screen.getByText("put it back"));
    expect(input.value).toBe("5");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("keeps the entry while the server is gone, and tries again with the same key", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    answers = [gone, saved(8)];
    const input = show();
    type(input, "6");
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("Trying again"));
    expect(input.value).toBe("6");
    await act(() => vi.advanceTimersByTimeAsync(3100));
    await waitFor(() => expect(screen.getByText("saved")).toBeTruthy());
    expect(sent[1]?.key).toBe(sent[0]?.key);
  });

  it("shows both values when another window was faster, and leaves the choice", async () => {
    const newer = { version: 9, value: "8.0", words: "thickness from 5 mm to 8 mm" };
    answers = [refused(409, newer), saved(10)];
    const input = show();
    type(input, "6");
    await screen.findByText("8.0");
    expect(screen.getByRole("alert").textContent).toContain("Here: 6");
    answers.unshift(() => json(200, frame(9)));
    fireEvent.click(screen.getByText("Keep theirs"));
    expect(input.value).toBe("5");
  });

  it("asks where another device changed it while it was typed, and never writes over it", async () => {
    answers = [saved(8)];
    const input = show();
    fireEvent.change(input, { target: { value: "" } });
    act(() => follow("8"));
    type(input, "6");
    expect((await screen.findByRole("alert")).textContent).toContain("There: 8. Here: 6.");
    expect(sent).toEqual([]);
    fireEvent.click(screen.getByText("Put mine"));
    await screen.findByText("saved");
    expect(sent[0]).toMatchObject({ text: "6" });
  });

  it("follows another device where nothing is being typed", () => {
    const input = show();
    act(() => follow("8"));
    expect(input.value).toBe("8");
  });

  it("puts an entry back on Escape without saving", () => {
    const input = show();
    fireEvent.change(input, { target: { value: "7" } });
    fireEvent.keyDown(input, { key: "Escape" });
    expect(input.value).toBe("5");
    expect(sent).toHaveLength(0);
  });

  it("is shown and saved in the other system", async () => {
    localStorage.setItem("shield-units", "us");
    answers = [saved(8)];
    const input = show();
    expect(input.value).toBe("0.197");
    type(input, "1/4");
    await screen.findByText("saved");
    expect(sent[0]).toMatchObject({ text: "1/4", system: "us" });
  });
});
