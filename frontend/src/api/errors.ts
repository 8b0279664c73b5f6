import type { Schemas } from "./types";

export type ErrorAnswer = Schemas["ErrorAnswer"];

/** A refusal by the server, in its one error shape. */
export class Refusal extends Error {
  readonly status: number;
  readonly answer: ErrorAnswer;
  constructor(status: number, answer: ErrorAnswer) {
    super(answer.error.message);
    this.status = status;
    this.answer = answer;
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {}

/** Words for whatever went wrong, as a person should read them. */
export function wordsFor(error: unknown): string {
  if (error instanceof Unreachable) return "Not saved: the server does not answer.";
  if (error instanceof Refusal) {
    const { message, remedy } = error.answer.error;
    const first = message.charAt(0).toUpperCase() + message.slice(1);
    return `${first.replace(/\.$/, "")}. ${remedy}`;
  }
  return "Something went wrong. Reload the page and try again.";
}
