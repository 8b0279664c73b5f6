import { beforeEach, expect, test, vi } from "vitest";
import { api, unwrap } from "./client";
import { Refusal } from "./errors";

const busy = (headers: Record<string, string> = { "Retry-After": "1" }) =>
  new Response(JSON.stringify({ error: { message: "others are being worked at", remedy: "" } }), {
    status: 503,
    headers: { "Content-Type": "application/json", ...headers },
  });
const done = () =>
  new Response("[]", { status: 200, headers: { "Content-Type": "application/json" } });

beforeEach(() => vi.useFakeTimers());
async function asked(answers: Response[]) {
  const fetch = vi.fn(async (_: Request) => answers.shift() ?? busy());
  vi.stubGlobal("fetch", fetch);
  const call = unwrap(api.GET("/api/jobs")).catch((error: unknown) => error);
  await vi.advanceTimersByTimeAsync(20_000);
  return { fetch, answer: await call };
}

test("what the server puts off is asked again until it is answered", async () => {
  const { fetch, answer } = await asked([busy(), busy(), done()]);
  expect(answer).toEqual([]);
  expect(fetch).toHaveBeenCalledTimes(3);
});

test("it is not asked for ever", async () => {
  const { fetch, answer } = await asked([]);
  expect(answer).toBeInstanceOf(Refusal);
  expect(fetch).toHaveBeenCalledTimes(5);
});

test("a failing store is said at once", async () => {
  const { fetch, answer } = await asked([busy({})]);
  expect((answer as Refusal).status).toBe(503);
  expect(fetch).toHaveBeenCalledTimes(1);
});
