import type { useRun } from "../api/runs";
import { Button } from "./Button";
import { RunBar } from "./RunBar";
import { Trouble } from "./Trouble";

type Props = {
  work: ReturnType<typeof useRun>;
  /** What the button says before the first run, and afterwards. */
  first: string;
  again: string;
  /** Said when something was changed since. */
  stale: string;
};

/** Begins long work, shows how far it is with a way to end it, and says how it ended. */
export function RunControl({ work, first, again, stale }: Props) {
  const run = work.run;
  const running = run?.state === "running";
  const cancel = () => void work.cancel();
  return (
    <>
      {!running && (
        <Button className="px-2!" onClick={() => void work.start()}>
          {run ? again : first}
        </Button>
      )}
      {run && <RunBar run={run} cancel={cancel} />}
      {work.stale && !running && <p className="text-sm font-semibold">{stale}</p>}
      <Trouble words={work.trouble} />
    </>
  );
}
