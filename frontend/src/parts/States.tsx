import { wordsFor } from "../api/errors";
import { Button } from "./Button";

/** Shown while something is fetched. */
export function Waiting({ what }: { what: string }) {
  return (
    <p className="p-6 text-quiet" role="status">
      Fetching {what} …
    </p>
  );
}

/** Shown when fetching failed, with a way on. */
export function Failed({ error, retry }: { error: unknown; retry: () => void }) {
  return (
    <div className="m-6 max-w-xl border border-blocked p-4" role="alert">
      <p className="mb-3">{wordsFor(error).replace("Not saved: the", "The")}</p>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}

/** A message that says something is empty, and what to do about it. */
export function Empty({ children }: { children: React.ReactNode }) {
  return <p className="border border-dashed border-rule p-4 text-quiet">{children}</p>;
}
