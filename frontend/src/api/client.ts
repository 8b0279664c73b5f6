import createClient from "openapi-fetch";
import { type ErrorAnswer, Refusal, Unreachable } from "./errors";
import type { components, paths } from "./schema";

/** What is sent, by its name in the server's document. */
type Sent = components["schemas"];
/** The body of a write, without what every write carries. */
export type Body<Name extends keyof Sent> = Omit<Sent[Name], "version" | "key">;

/** The one client; tests stub the global fetch. Only this room imports it. */
export const api = createClient<paths>({ fetch: (request) => globalThis.fetch(request) });

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
