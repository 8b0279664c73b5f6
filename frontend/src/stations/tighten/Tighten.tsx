import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useFrame, useJobId } from "../../api/job";
import { takeBack, useTighten } from "../../api/tighten";
import type { CardView, TightenView } from "../../api/types";
import { AsTable } from "../../drawing/AsTable";
import { Drawing } from "../../drawing/Drawing";
import { TorqueScale } from "../../drawing/TorqueScale";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useOther, usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { useTitle } from "../../parts/useTitle";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { FromPaper } from "./FromPaper";
import { FromWrench } from "./FromWrench";
import { OpenRegister } from "./OpenRegister";
import { OrderPanel } from "./OrderPanel";
import { PhonePanel } from "./PhonePanel";
import { ReadyPanel } from "./ReadyPanel";
import { TakeReading } from "./TakeReading";

/** Tighten: the order on the underside, one torque card a joint. */
export function Tighten() {
  const tighten = useTighten();
  const params = useParams();
  const navigate = useNavigate();
  const job = useJobId();
  const frame = useFrame();
  useTitle("Tighten", frame.data?.title);
  if (tighten.isPending) return <Waiting what="the order of work" />;
  if (tighten.isError) return <Failed error={tighten.error} retry={() => void tighten.refetch()} />;
  const view = tighten.data;
  const chosen = view.cards.find((c) => c.card.joint === params.joint) ?? view.cards[0];
  const done = new Set(view.cards.filter((c) => c.state === "torqued").map((c) => c.card.joint));
  const open = (key: string) =>
    view.cards.some((c) => c.card.joint === key) && void navigate(`/jobs/${job}/tighten/${key}`);
  return (
    <div className="grid grid-cols-1 gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[minmax(0,min(21rem,30vw))_minmax(0,1fr)]">
      <div className="flex min-h-0 flex-col gap-2">
        <h2 className="text-xl">Order of the final torques</h2>
        <Drawing
          drawing={view.underside}
          onPick={open}
          picked={chosen?.card.joint ?? ""}
          names={Object.fromEntries(view.cards.map((c) => [c.card.joint, c.card.name]))}
          done={done}
          without={["part"]}
          className="h-96 w-full lg:h-0 lg:min-h-40 lg:flex-1"
        />
        <OrderList view={view} chosen={chosen?.card.joint ?? ""} />
      </div>
      <div className="relative min-h-0 lg:overflow-y-auto">
        <GarageLink view={view} />
        <PhonePanel />
        {chosen && <Card key={chosen.card.joint} view={chosen} whole={view} />}
        <FromWrench view={view} />
        <OrderPanel view={view} />
        <OpenRegister view={view} />
        <ReadyPanel view={view} />
        <FromPaper view={view} />
        <Wrench view={view} />
      </div>
    </div>
  );
}

function GarageLink({ view }: { view: TightenView }) {
  const job = useJobId();
  const step = view.steps[view.at];
  if (!view.picked) {
    return (
      <p className="mb-3 border border-mind p-3">
        No plate is picked yet, so nothing can be recorded.{" "}
        <Link className="text-act underline" to={`/jobs/${job}/weigh-up`}>
          Pick one in Weigh-up
        </Link>
      </p>
    );
  }
  return (
    <p className="mb-3 flex flex-wrap items-center gap-3">
      <Link
        to={`/jobs/${job}/garage`}
        className="inline-flex min-h-12 items-center bg-act px-4 text-lg font-semibold text-paper hover:bg-ink"
      >
        Open garage mode
      </Link>
      <span>
        {step
          ? `Step ${view.at + 1} of ${view.steps.length}: ${step.step.title}`
          : "All steps are done."}{" "}
        <span className="text-quiet">
          About {Math.round(view.minutes)} minutes in all
          {view.taken_min >= 1 && `, ${Math.round(view.taken_min)} told so far`}.
        </span>
      </span>
      <a
        className="ml-auto inline-flex min-h-11 items-center text-act underline underline-offset-4"
        href={`/api/jobs/${job}/tighten/steps.pdf`}
        target="_blank"
        rel="noreferrer"
      >
        Print the steps
      </a>
      <a
        className="inline-flex min-h-11 items-center text-act underline underline-offset-4"
        href={`/api/jobs/${job}/tighten/cards.pdf`}
        target="_blank"
        rel="noreferrer"
      >
        Print two cards
      </a>
    </p>
  );
}

function OrderList({ view, chosen }: { view: TightenView; chosen: string }) {
  const job = useJobId();
  const pick = usePick();
  return (
    <ol aria-label="Joints in order">
      {view.cards.map((card, i) => (
        <li key={card.card.joint} className="border-b border-rule">
          <Link
            to={`/jobs/${job}/tighten/${card.card.joint}`}
            data-card={card.card.joint}
            className={`grid min-h-9 grid-cols-[1.5rem_1fr_auto_auto] items-center gap-2 px-1 ${card.card.joint === chosen ? "bg-sheet shadow-[inset_4px_0_0_var(--color-act)]" : "hover:bg-sheet"}`}
          >
            <span className="num text-xl">{i + 1}</span>
            <span className="leading-tight">
              joint {card.card.number}, {card.card.name}
            </span>
            <span className="num">{pick(card.target)}</span>
            <span className="w-20 text-right text-sm leading-tight">{card.state}</span>
          </Link>
        </li>
      ))}
    </ol>
  );
}

function Card({ view, whole }: { view: CardView; whole: TightenView }) {
  const pick = usePick();
  const other = useOther();
  const { card } = view;
  const step = whole.steps.find((s) => s.step.kind === "full" && s.step.joint === card.joint);
  return (
    <article
      aria-label={`Torque card of joint ${card.number}`}
      className="border border-ink bg-sheet p-4"
    >
      <header className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="text-2xl">
          Joint {card.number}, {card.name}
        </h3>
        <span className="text-quiet">{view.stage_label}</span>
        <VerdictMark verdict={view.verdict} />
      </header>
      <div className="mt-1 flex flex-wrap items-end gap-x-8 gap-y-2">
        <p>
          <span className="label block">target at the screw</span>
          <Why figure={view.target} className="text-5xl" />
          <span className="num block text-quiet">{other(view.target)}</span>
        </p>
        <p>
          <span className="label block">set the wrench to</span>
          <Why figure={view.setting} className="text-5xl" />
          <span className="num block text-quiet">{other(view.setting)}</span>
        </p>
        <p>
          <span className="label block">band</span>
          <span className="flex gap-2 text-2xl">
            <Why figure={view.low} /> to <Why figure={view.high} />
          </span>
        </p>
        <p className="text-sm text-quiet">{card.setting_note}</p>
      </div>
      <TorqueScale view={view} />
      <AsTable
        caption={`Torques of joint ${card.number}`}
        head={["what", "torque"]}
        rows={[...view.sources, ...view.limits, view.low, view.high].map((f) => [f.label, pick(f)])}
      />
      <p className="mt-1">
        <b>{card.decision}</b> Least limit: {card.governing}.
      </p>
      {view.findings.map((f) => (
        <p key={f.code} className="mt-1" data-finding={f.code}>
          <VerdictMark verdict={f.verdict} /> {f.text}
        </p>
      ))}
      <Sources view={view} />
      <p className="mt-2">
        <b>{card.treatment}.</b> {card.treatment_note}
      </p>
      <p>
        {card.turned}: {card.tool}
        {card.counter_tool ? `, held with ${card.counter_tool}` : ""}
      </p>
      <div className="mt-2 grid grid-cols-2 gap-3 md:grid-cols-4">
        {view.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Reading view={view} />
      {whole.picked && step && (
        <div className="mt-3 border-t border-rule pt-2">
          <TakeReading card={view} step={step} />
        </div>
      )}
    </article>
  );
}

function Sources({ view }: { view: CardView }) {
  return (
    <div className="mt-2 grid gap-x-6 md:grid-cols-2">
      <ul aria-label="Sources">
        {view.card.sources.map((source, i) => (
          <li key={source.key} className="flex items-baseline gap-2 border-b border-rule">
            <span className={source.decides ? "font-semibold" : ""}>{source.label}</span>
            {view.sources[i] && <Why figure={view.sources[i]} className="text-lg" />}
            <span className="label min-w-0 flex-1 text-right lg:truncate">{source.note}</span>
          </li>
        ))}
      </ul>
      <ul aria-label="Preload">
        {view.preload.map((figure) => (
          <li
            key={figure.key}
            className="flex items-baseline justify-between gap-2 border-b border-rule"
          >
            <span className="label">{figure.label}</span>
            <Why figure={figure} className="text-lg" />
          </li>
        ))}
        {view.cures.map((words) => (
          <li key={words} className="border-b border-rule text-sm">
            {words}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Reading({ view }: { view: CardView }) {
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const [reason, setReason] = useState("");
  if (!view.reading && view.history.length === 0) return null;
  const seq = view.history.filter((r) => r.kind === "reading").at(-1)?.seq ?? 0;
  return (
    <section aria-label="Record" className="mt-3 border-t border-ink pt-2">
      <h4 className="num text-lg">Record</h4>
      <ul>
        {view.history.map((r) => (
          <li key={r.seq} className="text-sm">
            {r.kind === "reading" ? "reading" : "reading taken back"}
            {r.torque && ` ${pick(r.torque)}`} · {r.at.replace("T", " ").slice(0, 16)}
            {r.overridden && " · not all were started"}
            {r.reason && ` · ${r.reason}`}
            {r.by && ` · ${r.by}`}
          </li>
        ))}
      </ul>
      {view.reading && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <p>
            stands at <b className="num text-xl">{pick(view.reading)}</b>
          </p>
          {view.reading.findings.map((f) => (
            <p key={f.code}>
              <VerdictMark verdict={f.verdict} /> {f.text}
            </p>
          ))}
          <Entry label="why it is taken back" value={reason} onChange={setReason} />
          <Button busy={busy} onClick={() => void act(takeBack({ seq, reason }))}>
            Take this reading back
          </Button>
        </div>
      )}
      <Trouble words={trouble} />
    </section>
  );
}

function Wrench({ view }: { view: TightenView }) {
  const { system } = useUnits();
  return (
    <section aria-label="Wrench" className="mt-3 border-t border-ink pt-2">
      <h3 className="text-lg">The wrench ({system === "us" ? "ft·lb" : "N·m"})</h3>
      <div className="grid grid-cols-2 gap-3 md:grid-cols-5">
        {view.wrench.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
    </section>
  );
}
