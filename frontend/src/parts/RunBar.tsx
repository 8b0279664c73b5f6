import type { RunView } from "../api/types";
import { Button } from "./Button";

type Props = { run: RunView; cancel: () => void };

/** How far long work is, what it is doing, and a way to end it. */
export function RunBar({ run, cancel }: Props) {
  if (run.state !== "running")
    return run.words === "done" ? null : (
      <p role="status" className="font-semibold">
        {run.words.charAt(0).toUpperCase() + run.words.slice(1)}.
      </p>
    );
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-x-3 gap-y-1" role="status">
      <progress className="h-3 w-36" max={run.total} value={run.done} aria-label={run.doing} />
      <span className="num">
        {run.done} of {run.total}
      </span>
      <span className="min-w-0 truncate">{run.doing}</span>
      <Button onClick={cancel}>Cancel</Button>
    </div>
  );
}
