import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Refusal, wordsFor } from "../api/errors";
import { bringIn, takeExample } from "../api/job";
import type { JobSummary } from "../api/types";
import { useJobs } from "../api/worklist";
import { OpenPage } from "../frame/OpenPage";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Entry } from "../parts/Entry";
import { FilePick } from "../parts/FilePick";
import { Empty, Failed, Waiting } from "../parts/States";
import { Trouble } from "../parts/Trouble";
import { FirstPath } from "./FirstPath";
import { JobLine } from "./JobLine";
import { bikesOf, listed, ORDERS, type Order } from "./order";

const PLACES = { "": "on the list", archived: "put away", bin: "in the bin" } as const;
type Place = keyof typeof PLACES;

/** The front page: every job, where it stands, what is due next. */
export function WorkList() {
  const jobs = useJobs();
  return (
    <OpenPage title="Work list" footer={<Caution />}>
      <h2 className="text-2xl">Work list</h2>
      <p className="mb-4 text-quiet">
        From a bike's underside to a plate that is fitted, torqued and looked after.
      </p>
      <FirstPath />
      <div className="mb-4 flex flex-wrap items-stretch gap-3">
        <Way
          to="/new/which"
          words="Which plate?"
          more="Start with a bike, tell two plates, see which and why"
        />
        <Way
          to="/new/fit"
          words="I have a plate to fit"
          more="Its list, a layout: what is short, which screw goes where"
        />
        <div className="flex flex-col items-start gap-2">
          <BringIn />
          {jobs.data?.jobs.length === 0 && <Example />}
        </div>
      </div>
      {/* Below the ways in: what comes and goes here moves none of them from under a finger. */}
      {jobs.isPending && <Waiting what="the work list" />}
      {jobs.isError && <Failed error={jobs.error} retry={() => void jobs.refetch()} />}
      {jobs.data?.jobs.length === 0 && (
        <Empty>No job yet. Take one of the ways above, or look at an example first.</Empty>
      )}
      {jobs.data && jobs.data.jobs.length > 0 && <Jobs jobs={jobs.data.jobs} />}
    </OpenPage>
  );
}

/** One of the two ways in: the question a person comes with, and what it leads to. */
function Way({ to, words, more }: { to: string; words: string; more: string }) {
  return (
    <Link
      to={to}
      className="block min-w-0 flex-1 basis-64 border-2 border-act px-4 py-2.5 hover:bg-sheet"
    >
      <span className="num block text-2xl text-act underline decoration-1 underline-offset-4">
        {words}
      </span>
      <span className="block text-quiet">{more}</span>
    </Link>
  );
}

/** Where nothing is there yet: a job of the invented scenario to look at and try on. */
function Example() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const take = async () => {
    try {
      const { id } = await takeExample();
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${id}/weigh-up`);
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  };
  return (
    <>
      <Button onClick={() => void take()}>Look at an example</Button>
      <Trouble words={trouble} />
    </>
  );
}

type Said = { words: string; bad: boolean; back?: (() => Promise<unknown>) | undefined };

/** Acts on jobs of the list: what was done is said, with a way back where there is one. */
function useActs() {
  const queries = useQueryClient();
  const [said, setSaid] = useState<Said | null>(null);
  const act = (work: () => Promise<unknown>, words: string, back?: () => Promise<unknown>) => {
    const done = async () => {
      try {
        await work();
        setSaid({ words, bad: false, back });
      } catch (error) {
        setSaid({ words: error instanceof Refusal ? error.message : wordsFor(error), bad: true });
      }
      await queries.invalidateQueries({ queryKey: ["jobs"] });
    };
    void done();
  };
  return { said, act };
}

function Jobs({ jobs }: { jobs: JobSummary[] }) {
  const [place, setPlace] = useState<Place>("");
  const [words, setWords] = useState("");
  const [bike, setBike] = useState("");
  const [order, setOrder] = useState<Order>("entered");
  const { said, act } = useActs();
  const shown = listed(jobs, { place, words, bike, order });
  const bikes = bikesOf(jobs);
  return (
    <>
      <div className="mb-3 grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-[1fr_14rem_12rem] [&>*:first-child]:col-span-2 sm:[&>*:first-child]:col-span-1">
        <Entry label="Search" value={words} onChange={setWords} />
        <Choice
          label="Bike"
          value={bike}
          options={["", ...bikes]}
          names={{ "": "every bike" }}
          onChange={setBike}
        />
        <Choice
          label="Order"
          value={order}
          options={Object.keys(ORDERS)}
          names={ORDERS}
          onChange={(value) => setOrder(value as Order)}
        />
      </div>
      <Places jobs={jobs} place={place} choose={setPlace} />
      {said && (
        <p
          className="my-2 flex flex-wrap items-center gap-3 border border-rule bg-sheet px-3 py-1.5"
          role={said.bad ? "alert" : "status"}
        >
          {said.words}
          {said.back && (
            <Button tone="quiet" onClick={() => act(said.back ?? (async () => {}), "Taken back.")}>
              Take it back
            </Button>
          )}
        </p>
      )}
      {shown.length === 0 && (
        <Empty>
          {words || bike
            ? "No job here matches what is looked for."
            : `Nothing is ${PLACES[place]}.`}
        </Empty>
      )}
      <ol>
        {shown.map((job, i) => (
          <JobLine key={job.id} job={job} number={i + 1} act={act} />
        ))}
      </ol>
    </>
  );
}

type PlacesProps = { jobs: JobSummary[]; place: Place; choose: (place: Place) => void };

/** Where jobs lie, with how many; shown once any is put away. */
function Places({ jobs, place, choose }: PlacesProps) {
  if (place === "" && jobs.every((job) => job.place === "")) return null;
  return (
    <fieldset className="mb-2 flex flex-wrap gap-2">
      <legend className="sr-only">Where jobs lie</legend>
      {(Object.keys(PLACES) as Place[]).map((key) => (
        <Button
          key={key}
          tone={key === place ? "main" : "plain"}
          aria-pressed={key === place}
          onClick={() => choose(key)}
        >
          {PLACES[key]} {jobs.filter((job) => job.place === key).length}
        </Button>
      ))}
    </fieldset>
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
        accept="application/json,.json,.zip"
        pick={(file) => void take(file)}
      />
      <Trouble words={trouble} className="mt-2" />
    </div>
  );
}
