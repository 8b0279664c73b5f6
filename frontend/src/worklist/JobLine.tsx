import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useState } from "react";
import { Link } from "react-router";
import type { JobSummary } from "../api/types";
import { copyJob, forgetJob, putJob, rawUrl, renameJob, usePicture } from "../api/worklist";
import { Drawing } from "../drawing/Drawing";
import { Button } from "../parts/Button";
import { Entry } from "../parts/Entry";
import { useSeen } from "../parts/useSeen";
import { VerdictMark } from "../parts/Verdict";

type Act = (work: () => Promise<unknown>, words: string, back?: () => Promise<unknown>) => void;

/** One job of the list: what it is, where it stands, what is due, and what can be done with it. */
export function JobLine({ job, number, act }: { job: JobSummary; number: number; act: Act }) {
  return (
    <li
      className="grid grid-cols-[auto_1fr] gap-x-4 border-t border-ink py-4 sm:grid-cols-[auto_1fr_20rem]"
      data-job={job.id}
    >
      <Picture job={job} number={number} />
      <div className="min-w-0 [overflow-wrap:anywhere]">
        {job.trouble ? <Unreadable job={job} /> : <Known job={job} />}
        <Acts job={job} act={act} />
      </div>
      <ul className="col-start-2 mt-2 sm:col-start-auto sm:mt-0">
        {job.stations.map((s) => (
          <li key={s.key}>
            <Link
              to={`/jobs/${job.id}/${s.key}`}
              className="grid min-h-6 grid-cols-[5rem_1fr] gap-2 border-b border-rule text-sm hover:bg-sheet"
            >
              <span className="flex items-center gap-1.5">
                <VerdictMark verdict={s.verdict} quiet />
                {s.label}
              </span>
              <span className="truncate text-quiet">{s.words}</span>
            </Link>
          </li>
        ))}
      </ul>
    </li>
  );
}

/** The bike from below with its plate; a number until it is drawn. */
function Picture({ job, number }: { job: JobSummary; number: number }) {
  const { ref, seen } = useSeen<HTMLSpanElement>();
  const picture = usePicture(job, seen);
  return (
    <span ref={ref} className="flex w-16 flex-col items-center sm:w-24">
      <span className="num text-2xl text-act" aria-hidden="true">
        {number}
      </span>
      {picture.data && <Drawing drawing={picture.data} className="h-28 w-full sm:h-36" />}
    </span>
  );
}

function Known({ job }: { job: JobSummary }) {
  return (
    <>
      <Link
        to={`/jobs/${job.id}/${job.station}`}
        className="num text-2xl underline decoration-1 underline-offset-4 hover:text-act"
      >
        {job.title}
      </Link>
      {job.pending ? (
        <p className="text-quiet" role="status">
          Working out where it stands …
        </p>
      ) : (
        <>
          <p className="text-quiet">
            {job.bike}
            {job.customer && ` of ${job.customer}`}
            {job.plate ? ` · ${job.plate}` : ""}
          </p>
          <p className="mt-1">
            <b>Stands:</b> {job.stands}
          </p>
          {job.cures_until && (
            <p className="mt-1">
              <VerdictMark verdict="not known" /> Thread locker holds from{" "}
              <b>
                <time dateTime={job.cures_until}>
                  {new Date(job.cures_until).toLocaleString([], {
                    dateStyle: "medium",
                    timeStyle: "short",
                  })}
                </time>
              </b>
            </p>
          )}
          <p className="mt-1.5">
            <Link
              to={`/jobs/${job.id}/${job.act_at}`}
              className="inline-flex min-h-11 items-center border border-act bg-sheet px-3.5 font-semibold text-act hover:bg-paper"
            >
              <span>
                Next: <span>{job.due}</span>
              </span>
            </Link>
          </p>
        </>
      )}
    </>
  );
}

/** A job that cannot be read hides no other one, and can be taken out as it is stored. */
function Unreadable({ job }: { job: JobSummary }) {
  return (
    <>
      <p className="num text-2xl">{job.title || job.id}</p>
      <p className="flex gap-2">
        <VerdictMark verdict="blocked" quiet /> This job cannot be read: {job.trouble}
      </p>
      <p className="text-sm text-quiet">
        The others are not touched by it. “shield restore” brings back an earlier copy.{" "}
        <a href={rawUrl(job.id)} className="underline underline-offset-4">
          Take it out as it is stored
        </a>
      </p>
    </>
  );
}

function Acts({ job, act }: { job: JobSummary; act: Act }) {
  const [title, setTitle] = useState<string | null>(null);
  const name = `“${job.title}”`;
  const rename = () => {
    const text = title?.trim() ?? "";
    if (text && text !== job.title) act(() => renameJob(job, text), `${name} is now “${text}”.`);
    setTitle(null);
  };
  const move = (place: JobSummary["place"], words: string) => () =>
    act(
      () => putJob(job.id, place),
      `${name} is ${words}.`,
      () => putJob(job.id, job.place),
    );
  if (title !== null)
    return (
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Entry label="New name" value={title} onChange={setTitle} onEnter={rename} wide />
        <Button tone="main" onClick={rename}>
          Rename
        </Button>
        <Button tone="quiet" onClick={() => setTitle(null)}>
          Leave it
        </Button>
      </div>
    );
  return (
    <Disclosure as="div" className="mt-1">
      <DisclosureButton className="min-h-11 cursor-pointer text-sm text-act underline underline-offset-4">
        Rename, copy, put away
        <span className="sr-only"> {job.title}</span>
      </DisclosureButton>
      <DisclosurePanel className="flex flex-wrap gap-x-1">
        {!job.trouble && (
          <>
            <Button tone="quiet" onClick={() => setTitle(job.title)}>
              Rename
            </Button>
            <Button
              tone="quiet"
              onClick={() => act(() => copyJob(job.id), `A copy of ${name} stands at the end.`)}
            >
              Copy without its record
            </Button>
          </>
        )}
        {job.place !== "" && (
          <Button tone="quiet" onClick={move("", "back on the list")}>
            Back on the list
          </Button>
        )}
        {job.place === "" && (
          <Button tone="quiet" onClick={move("archived", "put away")}>
            Put away
          </Button>
        )}
        {job.place === "bin" ? (
          <Button
            tone="quiet"
            onClick={() => act(() => forgetJob(job.id), `${name} is gone for good.`)}
          >
            Delete for good
          </Button>
        ) : (
          <Button tone="quiet" onClick={move("bin", "in the bin")}>
            Into the bin
          </Button>
        )}
      </DisclosurePanel>
    </Disclosure>
  );
}
