import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { configure, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { vi } from "vitest";
import type { Figure } from "../api/types";
import { UnitsProvider } from "./units";

// What is looked for may take its time on a slow machine; what never comes still fails.
configure({ asyncUtilTimeout: 10_000 });

/** What the page asked of the server, in order. */
export type Asked = { method: string; path: string; body: unknown };
type Answer = { status?: number; body: unknown } | undefined;

const NO_PHONES = { addresses: [], is_encrypted: false, code: null, devices: [] };

/** A server that answers by method and path; unknown questions fail the test with their name. */
export function serve(answer: (asked: Asked) => Answer): Asked[] {
  const seen: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const text = await request.clone().text();
    const asked = {
      method: request.method,
      path: new URL(request.url).pathname,
      body: text ? (JSON.parse(text) as unknown) : null,
    };
    const phones = asked.path.endsWith("/phones");
    if (!phones) seen.push(asked);
    const found = phones ? { body: NO_PHONES } : answer(asked);
    if (!found) throw new Error(`nobody answers ${asked.method} ${asked.path}`);
    return new Response(JSON.stringify(found.body), {
      status: found.status ?? 200,
      headers: { "Content-Type": "application/json" },
    });
  });
  return seen;
}

export const FRAME = {
  id: "j",
  version: 7,
  ledger: [],
  stations: [],
  open_on_bike: [],
  next: { words: "weigh 2 plates and pick one", at: "weigh-up" },
};

/** Shows something inside a job, with its frame already there. */
export function showInJob(what: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  queries.setQueryData(["frame", "j"], FRAME);
  render(
    <QueryClientProvider client={queries}>
      <UnitsProvider>
        <MemoryRouter initialEntries={["/jobs/j"]}>
          <Routes>
            <Route path="/jobs/:job" element={what} />
          </Routes>
        </MemoryRouter>
      </UnitsProvider>
    </QueryClientProvider>,
  );
  return queries;
}

/** A figure as the core sends it, with little in it. */
export const figure = (key: string, metric: string, value: number | null = 1): Figure => ({
  key,
  label: key,
  value,
  unit: "",
  metric,
  us: `${metric} (us)`,
  verdict: "sound",
  findings: [],
  inputs: [],
  reasons: [`why ${key}`],
  assumptions: [],
  warnings: [],
  sources: [],
});

/** A refusal in the server's one shape. */
export const refusal = (field: string, message: string) => ({
  status: 422,
  body: {
    error: { field, value: "x", allowed: "better", message, remedy: "Try again.", reference: "" },
    newer: null,
  },
});
