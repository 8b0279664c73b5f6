import { useState } from "react";
import { Link } from "react-router";
import { wordsFor } from "../../api/errors";
import { jobBundleUrl, jobFileUrl, useJobId } from "../../api/job";
import { keepFile, useCalendar, useRenewCalendar } from "../../api/keep";
import { cameOverNetwork } from "../../api/phones";
import type { KeepView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { WithKeep } from "./withKeep";

/** Was the pick right, what is handed over, and the way back to stock. */
export function BackSheet() {
  return <WithKeep>{(view) => <Sheet view={view} />}</WithKeep>;
}

function Sheet({ view }: { view: KeepView }) {
  const job = useJobId();
  return (
    <div className="grid gap-x-8 gap-y-4 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section aria-label="Was the pick right">
        <h2 className="text-2xl">Was the {view.plate} the right pick?</h2>
        <table className="mt-1 w-full">
          <thead>
            <tr className="text-left text-quiet">
              <th scope="col" className="font-normal">
                weighed by
              </th>
              <th scope="col" className="font-normal">
                then
              </th>
              <th scope="col" className="font-normal">
                what became of it
              </th>
            </tr>
          </thead>
          <tbody>
            {view.became.map((row) => (
              <tr key={row.key} className="border-t border-rule align-top" data-became={row.key}>
                <th scope="row" className="py-1.5 pr-3 text-left">
                  {row.label}
                </th>
                <td className="py-1.5 pr-3">
                  <Why figure={row.weighed} className="text-lg" />
                  <span className="block text-sm text-quiet">{row.weighed.label}</span>
                </td>
                <td className="py-1.5">
                  <VerdictMark verdict={row.verdict} quiet /> {row.now}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <MassYears view={view} />
        {!cameOverNetwork() && (
          <p className="mt-2">
            <Link
              to={`/jobs/${job}/survey/underside`}
              className="text-act underline underline-offset-4"
            >
              Enter what else was bolted on, and when
            </Link>
          </p>
        )}
        <BackToStock view={view} />
      </section>
      <Files view={view} />
    </div>
  );
}

function Files({ view }: { view: KeepView }) {
  const job = useJobId();
  const link = "inline-flex min-h-12 items-center border border-act px-3.5 font-semibold text-act";
  return (
    <aside className="grid content-start gap-2" aria-label="To hand over">
      <h2 className="text-xl">To hand over</h2>
      {!cameOverNetwork() && <Field field={view.customer} />}
      <a className={link} href={keepFile(job, "sheet.pdf")} target="_blank" rel="noreferrer">
        Print the sheet of this plate
      </a>
      <a className={link} href={keepFile(job, "roll.pdf")} target="_blank" rel="noreferrer">
        Print the trail roll, pocket size
      </a>
      <a className={link} href={keepFile(job, "due.ics")} download="due.ics">
        What is due, as a calendar
      </a>
      {!cameOverNetwork() && <Subscribe />}
      {!cameOverNetwork() && (
        <a className={link} href={jobFileUrl(job)} download="job.json">
          Save the job as a file
        </a>
      )}
      {!cameOverNetwork() && (
        <a className={link} href={jobBundleUrl(job)} download="job.zip">
          Save the job with its photos, as a zip
        </a>
      )}
    </aside>
  );
}

/** What was bolted on and when, its sum, and what the springs make of it. */
function MassYears({ view }: { view: KeepView }) {
  if (view.mass_years.length === 0) return null;
  return (
    <section aria-label="Mass over the years" className="mt-4">
      <h3 className="border-b border-ink text-lg">Mass over the years</h3>
      <table className="w-full">
        <thead>
          <tr className="text-left text-quiet">
            {["when", "what", "its mass", "on since", "front sinks", "rear sinks"].map((words) => (
              <th key={words} scope="col" className="pr-2 font-normal">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.mass_years.map((row) => (
            <tr key={row.name} className="border-t border-rule" data-mass={row.name}>
              <td className="py-1 pr-2">{row.at}</td>
              <th scope="row" className="pr-2 text-left font-normal">
                {row.name}
              </th>
              {[row.mass, row.total, row.front, row.rear].map((figure) => (
                <td key={figure.key} className="pr-2">
                  <Why figure={figure} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Private addresses that a calendar can subscribe to, and new ones where one went astray. */
function Subscribe() {
  const calendar = useCalendar();
  const renew = useRenewCalendar();
  const [trouble, setTrouble] = useState("");
  const again = async () => {
    setTrouble("");
    try {
      await renew();
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  };
  if (!calendar.data) return null;
  return (
    <div className="text-sm text-quiet">
      <p>
        A calendar can subscribe to it, and is updated, never doubled. Whoever has the address can
        read it:
      </p>
      <ul>
        {calendar.data.addresses.map((address) => (
          <li key={address} className="break-all text-ink">
            {address}
          </li>
        ))}
      </ul>
      <Button tone="quiet" onClick={() => void again()}>
        New addresses; these then lead nowhere
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

function BackToStock({ view }: { view: KeepView }) {
  const pick = usePick();
  const [open, setOpen] = useState(false);
  const { back } = view;
  return (
    <section aria-label="Back to stock" className="mt-5 border-t border-ink pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-xl">Back to stock</h2>
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Fold" : "Show the way back"}
        </Button>
      </div>
      <p>
        It gives back{" "}
        {back.gives_back
          .map((f) => `${f.label.toLowerCase()} ${pick(f) || "not known"}`)
          .join(", ")}
        .{back.bag.length === 0 && " What lies in the stock bag was not written down at Survey."}
      </p>
      {back.stays.length > 0 && <p>It stays changed: {back.stays.join("; ")}.</p>}
      {open && (
        <ol className="list-decimal pl-7">
          {back.steps.map((step) => (
            <li key={step.title} className="border-b border-rule py-1">
              <b>{step.title}.</b> {step.text}
              {step.caution && (
                <span className="block border-l-4 border-mind pl-2">
                  <VerdictMark verdict="mind" /> {step.caution}
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
