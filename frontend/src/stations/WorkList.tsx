import { useState } from "react";
import { Link } from "react-router";
import type { JobSummary } from "../api/client";
import { useJobs } from "../api/hooks";
import { Tools } from "../frame/JobFrame";
import { ShortcutSheet, useShortcuts } from "../parts/Shortcuts";
import { Empty, Failed, Waiting } from "../parts/States";
import { useUnits } from "../parts/units";
import { VerdictMark } from "../parts/Verdict";

/** The front page: every job, where it stands, what is due next. */
export function WorkList() {
  const jobs = useJobs();
  const { toggle } = useUnits();
  const [sheet, setSheet] = useState(false);
  useShortcuts({ u: toggle, "?": () => setSheet(true) });
  return (
    <div className="mx-auto flex min-h-dvh max-w-5xl flex-col px-4 sm:px-8">
      <header className="flex items-center gap-3 border-b-2 border-ink py-4">
        <h1 className="stamp flex-1 text-3xl text-act">Rugged Shield</h1>
        <Tools openSheet={() => setSheet(true)} />
      </header>
      <main className="flex-1 py-5">
        <h2 className="text-2xl">Work list</h2>
        <p className="mb-4 text-quiet">
          From a bike's underside to a plate that is fitted, torqued and looked after.
        </p>
        {jobs.isPending && <Waiting what="the work list" />}
        {jobs.isError && <Failed error={jobs.error} retry={() => void jobs.refetch()} />}
        {jobs.data?.jobs.length === 0 && (
          <Empty>No job yet. Start the demo with “shield demo” to see two.</Empty>
        )}
        <ol>
          {jobs.data?.jobs.map((job, i) => (
            <JobLine key={job.id} job={job} number={i + 1} />
          ))}
        </ol>
      </main>
      <footer className="border-t border-rule py-4 text-sm text-quiet">
        Estimates for comparing and a record of work, not a guarantee. The bike maker's service
        manual and the plate's sheet come first; ask a licensed workshop where they conflict or a
        structural, brake or exhaust part is changed.
      </footer>
      <ShortcutSheet open={sheet} close={() => setSheet(false)} />
    </div>
  );
}

function JobLine({ job, number }: { job: JobSummary; number: number }) {
  return (
    <li className="grid grid-cols-[auto_1fr] gap-x-4 border-t border-ink py-4 sm:grid-cols-[auto_1fr_20rem]">
      <span className="num text-4xl text-act" aria-hidden="true">
        {number}
      </span>
      <div className="min-w-0">
        <Link
          to={`/jobs/${job.id}/${job.station}`}
          className="num text-2xl underline decoration-1 underline-offset-4 hover:text-act"
        >
          {job.title}
        </Link>
        <p className="text-quiet">
          {job.bike}
          {job.plate ? ` · ${job.plate}` : ""}
        </p>
        <p className="mt-1">
          <b>Stands:</b> {job.stands}
        </p>
        <p className="flex flex-wrap gap-x-2">
          <b>Due next:</b> <span>{job.due}</span>
        </p>
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
