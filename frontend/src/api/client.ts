import createClient from "openapi-fetch";
import { deviceName } from "./device";
import { type ErrorAnswer, Refusal, Unreachable } from "./errors";
import type { components, paths } from "./schema";
import { unitsSpoken } from "./units";

/** What is sent, by its name in the server's document. */
type Sent = components["schemas"];
/** The body of a write, without what every write carries. */
export type Body<Name extends keyof Sent> = Omit<Sent[Name], "version" | "key" | "late_s">;

/** How often a request is sent again that the server put off, and the longest it is waited for. */
const AGAIN = 4;
const LONGEST_S = 5;

/**
 * Sends a request; where the server says “later” (503 with the seconds to wait) it is sent again.
 * Such an answer means that nothing was done, and a write's key keeps it one write.
 */
async function patient(request: Request): Promise<Response> {
  request.headers.set("Units", unitsSpoken());
  const name = deviceName();
  if (name) request.headers.set("Device", encodeURIComponent(name));
  for (let tries = 1; ; tries++) {
    const answer = await globalThis.fetch(request.clone());
    const wait = Number(answer.headers.get("Retry-After") ?? Number.NaN);
    if (answer.status !== 503 || !(wait >= 0) || tries > AGAIN) return answer;
    await new Promise((go) => setTimeout(go, Math.min(wait, LONGEST_S) * 1000));
  }
}

/** The one client; tests stub the global fetch. Only this room imports it. */
export const api = createClient<paths>({ fetch: patient });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Unwraps an answer: the data, or a typed refusal, or “unreachable”. */
export async function unwrap<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (cause) {
    throw new Unreachable("The server does not answer.", { cause });
  }
  if (answer.data !== undefined) return answer.data;
  throw new Refusal(answer.response.status, answer.error as ErrorAnswer);
}

/** The parameters of a route below a job. */
export const at = (job_id: string) => ({ params: { path: { job_id } } });
