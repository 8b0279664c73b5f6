import { useState } from "react";

/** The last answer there was: a refusal in between leaves it standing. */
export function useLastGood<T>(answer: T | undefined): T | undefined {
  const [last, setLast] = useState(answer);
  // Set while rendering, as React has it for state that follows a prop: no ref is written.
  if (answer !== undefined && answer !== last) setLast(answer);
  return answer ?? last;
}
