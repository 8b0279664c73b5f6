import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { expect, it, vi } from "vitest";
import { setField, useFrame } from "./job";
import { useWrite } from "./writes";

const frame = (version: number) => ({ id: "j", version, ledger: [], stations: [] });
const answer = (body: unknown) => new Response(JSON.stringify(body), { status: 200 });

let write: ReturnType<typeof useWrite>;
function Shown() {
  write = useWrite();
  return <p>version {useFrame().data?.version}</p>;
}

it("is based on the write before it, though an older read of the job comes in last", async () => {
  const bases: number[] = [];
  const reads: ((response: Response) => void)[] = [];
  let stored = 7;
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "GET") return new Promise<Response>((done) => reads.push(done));
    bases.push(((await request.json()) as { version: number }).version);
    stored += 1;
    return answer({ version: stored, frame: frame(stored) });
  });
  const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 60_000 } } });
  queries.setQueryData(["frame", "j"], frame(7));
  render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={["/jobs/j"]}>
        <Routes>
          <Route path="/jobs/:job" element={<Shown />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const set = setField({ path: "bike.name", text: "Brenn 440", system: "metric" });
  act(() => void queries.invalidateQueries({ queryKey: ["frame", "j"] }));
  await waitFor(() => expect(reads).toHaveLength(1));
  await act(() => write(set));
  await act(async () => reads[0]?.(answer(frame(7))));
  await screen.findByText("version 8");
  await act(() => write(set));
  expect(bases).toEqual([7, 8]);
});
