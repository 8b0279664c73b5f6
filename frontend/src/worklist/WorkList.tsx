import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Refusal, wordsFor } from "../api/errors";
import { bringIn, useJobs } from "../api/job";
import type { JobSummary } from "../api/types";
import { OpenPage } from "../frame/OpenPage";
import { FilePick } from "../parts/FilePick";
import { Empty, Failed, Waiting } from "../parts/States";
import { Trouble } from "../parts/Trouble";
import { VerdictMark } from "../parts/Verdict";

/** The front page: every job, where it stands, what is due next. */
export function WorkList() {
  const jobs = useJobs();
  return (
    <OpenPage footer={<Caution />}>
      <h2 className="text-2xl">Work list</h2>
      <p className="mb-4 text-quiet">
        From a bike's underside to a plate that is fitted, torqued and looked after.
      </p>
      {jobs.isPending && <Waiting what="the work list" />}
      {jobs.isError && <Failed error={jobs.error} retry={() => void jobs.refetch()} />}
      {jobs.data?.jobs.length === 0 && (
        <Empty>No job yet. Start with a bike, or run “shield demo” to look around first.</Empty>
      )}
      <div className="mb-4 flex flex-wrap items-start gap-3">
        <Link
          to="/new"
          className="inline-flex min-h-11 items-center border border-act bg-act px-3.5 font-semibold text-paper"
        >
          Start with a bike
        </Link>
        <BringIn />
      </div>
      <ol>
        {jobs.data?.jobs.map((job, i) => (
          <JobLine key={job.id} job={job} number={i + 1} />
        ))}
      </ol>
    </OpenPage>
  );
}

function Caution() {
  return (
    <footer className="border-t border-rule py-4 text-sm text-quiet">
      Estimates for comparing and a record of work, not a guarantee. The bike maker's service manual
      and the plate's sheet come first; ask a licensed workshop where they conflict or a structural,
      brake or exhaust part is changed.
    </footer>
  );
}

/** Takes a job file from disk; says where it is wrong when it is. */
function BringIn() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    setTrouble("");
    try {
      const brought = await bringIn(file);
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${brought.id}/survey`);
    } catch (error) {
      setTrouble(error instanceof Refusal ? error.message : wordsFor(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div>
      <FilePick
        words={busy ? "Reading the file …" : "Bring in a job file"}
        accept="application/json,.json"
        pick={(file) => void take(file)}
      />
      <Trouble words={trouble} className="mt-2" />
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
