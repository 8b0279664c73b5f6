import { type MouseEvent, useState } from "react";
import { wordsFor } from "../../api/errors";
import {
  makeChange,
  placeInFlat,
  takeBackChange,
  tickChange,
  useChanges,
  useEffectOf,
  useStrikeOf,
} from "../../api/fitup";
import { useJobId } from "../../api/job";
import type { Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { tappedAt } from "../../drawing/tapped";
import { BeforeAfter } from "../../parts/BeforeAfter";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Findings } from "../../parts/Findings";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { useSettled } from "../../parts/useSettled";
import { VerdictMark } from "../../parts/Verdict";
import { YesNoSwitch } from "../../parts/YesNoSwitch";
import { type Asked, ChangeForm, NOTHING, said, wants } from "./ChangeForm";

const LINK = "inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act";
const PAUSE_MS = 250;
const FLAT = "laid flat: outer face up, front at the top";
/** Changes that show on the folded plate only. */
const FOLDED: readonly Asked["kind"][] = ["bend", "other side"];
type View = Schemas["ChangesView"];

/** Changes of the plate: drawn on its flat pattern, their price first; templates at 1:1. */
export function ChangesSheet() {
  const changes = useChanges();
  const job = useJobId();
  const { system } = useUnits();
  const [asked, setAsked] = useState<Asked>(NOTHING);
  const [taps, setTaps] = useState<Tap[]>([]);
  const settled = useSettled({ ...asked, system }, PAUSE_MS);
  const effect = useEffectOf(said(settled) ? settled : null);
  if (changes.isPending) return <Waiting what="the flat plate" />;
  if (changes.isError) return <Failed error={changes.error} retry={() => void changes.refetch()} />;
  const view = changes.data;
  const tap = async (event: MouseEvent<HTMLElement>) => {
    const at = tappedAt(event);
    const most = wants(asked.kind);
    if (!at || most === 0) return;
    const place = await placeInFlat(job, at.x, at.y);
    const point =
      system === "us" ? { x: place.x_us, y: place.y_us } : { x: place.x_metric, y: place.y_metric };
    const kept = asked.points.filter((p) => p.x !== "" || p.y !== "");
    const more = kept.length < most;
    setAsked({ ...asked, points: more ? [...kept, point] : [point] });
    setTaps([...(more ? taps : []), { at, ...point }]);
  };
  const tried = said(settled) ? effect.data : undefined;
  const isFolded = tried !== undefined && FOLDED.includes(asked.kind);
  return (
    <div className="grid grid-cols-1 gap-x-6 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]">
      <div className="min-w-0">
        <h2 className="text-xl">
          {view.plate}, {isFolded ? "folded, with the change" : FLAT}
        </h2>
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: every place can be typed in the form */}
        {/* biome-ignore lint/a11y/noStaticElementInteractions: every place can be typed in the form */}
        <div onClick={(event) => void tap(event)} data-testid="flat">
          <Drawing
            drawing={withTaps(tried?.drawing ?? view.drawing, taps, asked)}
            className="max-h-[56vh] min-h-72 w-full"
          />
        </div>
        <p className="mt-1 flex flex-wrap items-center gap-2">
          <span className="label">Templates 1:1</span>
          {(["a4", "letter"] as const).map((paper) => (
            <a
              key={paper}
              className={LINK}
              href={`/api/jobs/${job}/fit-up/changes/template-${paper}.pdf`}
              target="_blank"
              rel="noreferrer"
            >
              PDF on {paper === "a4" ? "A4" : "Letter"}
            </a>
          ))}
          {(["svg", "dxf"] as const).map((kind) => (
            <a
              key={kind}
              className={LINK}
              href={`/api/jobs/${job}/fit-up/changes/template.${kind}`}
              download={`template.${kind}`}
            >
              {kind.toUpperCase()}
            </a>
          ))}
        </p>
        <Made view={view} />
      </div>
      <div className="min-w-0">
        <ChangeForm view={view} asked={asked} set={setAsked} />
        {effect.isError && said(settled) && <Trouble words={wordsFor(effect.error)} />}
        {tried && (
          <Price
            effect={tried}
            asked={settled}
            busy={effect.isPlaceholderData || effect.isError}
            done={() => setAsked(NOTHING)}
          />
        )}
      </div>
    </div>
  );
}

type Tap = { at: { x: number; y: number }; x: string; y: string };

/** The taps that are still asked for, marked where they were made. */
function withTaps(drawing: View["drawing"], taps: readonly Tap[], asked: Asked): View["drawing"] {
  const still = taps.filter((tap) => asked.points.some((p) => p.x === tap.x && p.y === tap.y));
  const line = still.map((tap): [number, number] => [tap.at.x, tap.at.y]);
  const dots = line.map(([cx, cy]) => ({ cx, cy, r: 5, ref: "", ...MARKED }));
  return {
    ...drawing,
    circles: [...drawing.circles, ...dots],
    paths:
      line.length < 2
        ? drawing.paths
        : [...drawing.paths, { points: line, closed: line.length > 2, ref: "", ...CUT }],
  };
}

const MARKED = { weight: "section", fill: "paper" } as const;
const CUT = { weight: "section", fill: "none" } as const;

type PriceProps = {
  effect: Schemas["EffectView"];
  asked: Schemas["ChangeAsk"];
  busy: boolean;
  done: () => void;
};

/** What the change costs before it is taken. */
function Price({ effect, asked, busy, done }: PriceProps) {
  const { act, trouble, busy: saving } = useAct();
  const [blow, setBlow] = useState(false);
  const strike = useStrikeOf(blow ? asked : null);
  const take = async () => {
    if (await act(makeChange(asked))) done();
  };
  return (
    <section aria-label="What it costs" aria-busy={busy} className="mt-3">
      <h3 className="border-b border-ink text-lg">
        {effect.words} <VerdictMark verdict={effect.verdict} />
      </h3>
      <Cautions texts={[effect.caution, effect.law].filter(Boolean)} />
      <BeforeAfter rows={effect.rows} />
      {effect.joints.map((words) => (
        <p key={words}>{words}</p>
      ))}
      <Findings findings={effect.findings} />
      {strike.data && <BeforeAfter rows={strike.data.rows} />}
      {strike.data?.trouble && <p>{strike.data.trouble}</p>}
      {blow && strike.isFetching && <Waiting what="the blow before and after" />}
      {strike.isError && <Failed error={strike.error} retry={() => void strike.refetch()} />}
      <p className="mt-2 flex flex-wrap gap-2">
        <Button tone="main" busy={saving} disabled={busy} onClick={() => void take()}>
          Make this change
        </Button>
        {!blow && <Button onClick={() => setBlow(true)}>And under a blow?</Button>}
      </p>
      <Trouble words={trouble} />
    </section>
  );
}

function Made({ view }: { view: View }) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label="Changes of this plate" className="mt-3">
      <h3 className="border-b border-ink text-lg">Changes against its sheet</h3>
      {view.changes.length === 0 && (
        <p className="py-1 text-quiet">
          {view.outline || "None: the plate is as its sheet has it."}
        </p>
      )}
      <ul>
        {view.changes.map((change) => (
          <li key={change.key} data-change={change.key} className="border-b border-rule py-1.5">
            <div className="flex flex-wrap items-center gap-x-3">
              <span className="min-w-0 flex-1 basis-60">
                {change.words}
                {change.why && <span className="text-quiet"> · {change.why}</span>}
              </span>
              <YesNoSwitch
                label={`carried out: ${change.words}`}
                on={change.done}
                set={(on) => void act(tickChange(change.key, on))}
              />
              {!change.done && (
                <Button
                  tone="quiet"
                  busy={busy}
                  onClick={() => void act(takeBackChange(change.key))}
                >
                  Take it back
                </Button>
              )}
            </div>
            {!change.done && change.caution && (
              <p className="border-l-4 border-mind pl-2 text-sm">{change.caution}</p>
            )}
          </li>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}
