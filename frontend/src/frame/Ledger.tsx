import {
  Disclosure,
  DisclosureButton,
  DisclosurePanel,
  Listbox,
  ListboxButton,
  ListboxOption,
  ListboxOptions,
} from "@headlessui/react";
import { Link, useLocation } from "react-router";
import { redo, undo } from "../api/job";
import type { Frame, LedgerLine } from "../api/types";
import { showInLedger } from "../api/weighup";
import { Trouble } from "../parts/Trouble";
import { usePick, useUnits } from "../parts/units";
import { useAct } from "../parts/useAct";
import { Why } from "../parts/Why";

type Props = {
  frame: Frame;
  /** The screen is not about what a plate costs: one line says what is in hand, next and moved. */
  brief: boolean;
  /** The station that is open, by its key. */
  station: string;
};

/** The running ledger against stock: a strip that never leaves, one line where it is brief. */
export function Ledger({ frame, brief, station }: Props) {
  const here = useIsNext(frame);
  // The answer says itself what its plate costs, and need not be about the one in hand.
  const atWork = brief && station !== "weigh-up";
  const moved = frame.ledger.filter((line) => line.moved_metric);
  return (
    <section
      aria-label={brief ? "In hand and next" : "Ledger against stock"}
      className="fixed inset-x-0 bottom-13 z-20 border-t-2 border-ink bg-sheet sm:static"
    >
      <div className="hidden items-baseline gap-3 border-b border-rule px-5 py-1 sm:flex">
        <h2 className="shrink-0 whitespace-nowrap text-base">
          {brief ? "In hand" : "Against stock"}: <InHand frame={frame} />
          {frame.picked ? " (picked)" : " (weighing)"}
        </h2>
        <Next frame={frame} />
        <div className="min-w-0">
          <LastAct frame={frame} brief={brief} />
          {atWork && <Moved lines={moved} />}
        </div>
        <Turns frame={frame} />
      </div>
      {!brief && (
        <div className="hidden grid-cols-[repeat(auto-fit,minmax(7.5rem,1fr))] sm:grid">
          {frame.ledger.map((line) => (
            <Cell key={line.key} line={line} />
          ))}
        </div>
      )}
      {!here && (
        <div className="flex min-h-11 items-center border-b border-rule px-3 sm:hidden">
          <Next frame={frame} />
        </div>
      )}
      {!brief && <PhoneLedger frame={frame} />}
      {atWork && <PhoneStation frame={frame} station={station} />}
    </section>
  );
}

/** On a phone: where the station that is open stands, and the plate in hand. */
function PhoneStation({ frame, station }: { frame: Frame; station: string }) {
  const here = frame.stations.find((s) => s.key === station);
  return (
    <div className="flex min-h-11 items-center gap-3 px-3 text-sm sm:hidden">
      {here && (
        <span className="min-w-0 shrink-0">
          <b>{here.label}:</b> {here.words}
        </span>
      )}
      <span className="min-w-0 flex-1 truncate text-right">
        <InHand frame={frame} />
      </span>
    </div>
  );
}

/** What the last act moved against stock, where the ledger itself is not shown. */
function Moved({ lines }: { lines: readonly LedgerLine[] }) {
  const { system } = useUnits();
  const pick = usePick();
  return (
    <p className="flex flex-wrap gap-x-3 text-sm">
      {lines.map((line) => (
        <span key={line.key} className="whitespace-nowrap" data-ledger={line.key} data-moved>
          {line.label} <span className="sr-only">moved by </span>
          <b>{system === "us" ? line.moved_us : line.moved_metric}</b> to {pick(line.now)}
        </span>
      ))}
    </p>
  );
}

/** Whether the next thing of the job is done on the page that is open. */
function useIsNext(frame: Frame) {
  const { pathname } = useLocation();
  return pathname === `/jobs/${frame.id}/${frame.next.at}`;
}

/** The one next thing of the job, on every screen, and the way to it. */
function Next({ frame }: { frame: Frame }) {
  const here = useIsNext(frame);
  return (
    <p className="flex min-w-32 items-center gap-1.5" data-testid="next">
      <span className="font-semibold">Next:</span>
      {here ? (
        <span>on this page</span>
      ) : (
        <Link
          to={`/jobs/${frame.id}/${frame.next.at}`}
          className="inline-flex min-h-11 min-w-0 items-center text-act underline underline-offset-4 sm:min-h-6"
        >
          <span className="truncate">{frame.next.words}</span>
        </Link>
      )}
    </p>
  );
}

/** The plate in hand: what every station shows; another one can be taken until one is picked. */
function InHand({ frame }: { frame: Frame }) {
  const { act, trouble } = useAct();
  if (frame.picked || frame.plates.length < 2)
    return <span className="text-act">{frame.plate}</span>;
  return (
    <>
      <Listbox
        value={frame.plate_key}
        onChange={(plate) => void act(showInLedger({ plate, reason: "" }))}
      >
        <ListboxButton
          aria-label={`Plate in hand: ${frame.plate}`}
          className="min-h-6 cursor-pointer text-act underline underline-offset-4"
        >
          {frame.plate}
        </ListboxButton>
        <ListboxOptions
          anchor={{ to: "top start", gap: 4, padding: 8 }}
          className="z-50 max-h-72! overflow-auto border border-ink bg-sheet focus:outline-none"
        >
          {frame.plates.map((plate) => (
            <ListboxOption
              key={plate.key}
              value={plate.key}
              className="flex min-h-11 cursor-pointer items-center px-3 data-focus:bg-act data-focus:text-paper data-selected:font-semibold"
            >
              {plate.name}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
      <Trouble words={trouble} />
    </>
  );
}

/** Undo and redo, saying what they would do. */
function Turns({ frame }: { frame: Frame }) {
  const { act, trouble, busy } = useAct();
  return (
    <span className="ml-auto flex shrink-0 items-baseline gap-3 text-sm">
      <Trouble words={trouble} />
      {(["undo", "redo"] as const).map((turn) => (
        <button
          key={turn}
          type="button"
          className="min-h-6 cursor-pointer text-act underline underline-offset-4 disabled:cursor-default disabled:text-quiet disabled:no-underline"
          disabled={frame[turn] === ""}
          title={frame[turn]}
          data-turn={turn}
          onClick={() => !busy && void act(turn === "undo" ? undo : redo)}
        >
          {turn === "undo" ? "Undo" : "Redo"}
          <span className="sr-only">: {frame[turn] || "nothing"}</span>
        </button>
      ))}
    </span>
  );
}

function LastAct({ frame, brief }: Pick<Props, "frame" | "brief">) {
  if (!frame.last_act) return null;
  const moved = frame.ledger.some((l) => l.moved_metric);
  return (
    <p className="min-w-0 truncate text-sm text-quiet" data-testid="last-act">
      Last: {frame.last_act}
      {moved && !brief ? " · moved lines are marked" : ""}
    </p>
  );
}

/** A number without its unit where the one that follows says the same unit. */
function bare(first: string, second: string) {
  const unit = / \D+$/.exec(second)?.[0] ?? "";
  return unit && first.endsWith(unit) ? first.slice(0, -unit.length) : first;
}

function Cell({ line }: { line: LedgerLine }) {
  const pick = usePick();
  const { system } = useUnits();
  const moved = system === "us" ? line.moved_us : line.moved_metric;
  const [stock, now] = [pick(line.stock), pick(line.now)];
  return (
    <div
      className={`border-r border-rule px-2 py-1.5 last:border-r-0 ${moved ? "moved border-t-4 border-t-act pt-0.5" : ""}`}
      data-ledger={line.key}
      data-moved={moved || undefined}
    >
      <p className="label truncate">{line.label}</p>
      <Why figure={line.delta} className="block text-xl" />
      <p className="truncate text-[0.8125rem] text-quiet tabular-nums">
        {moved ? (
          <>
            <b className="text-act">
              <span className="sr-only">moved </span>by {bare(moved, now)}
            </b>
            : {now}
          </>
        ) : (
          `${bare(stock, now)} to ${now}`
        )}
      </p>
    </div>
  );
}

function PhoneLedger({ frame }: { frame: Frame }) {
  const pick = usePick();
  const brief = frame.ledger.filter((l) => l.brief);
  return (
    <Disclosure as="div" className="sm:hidden">
      <DisclosurePanel className="grid max-h-[50dvh] grid-cols-2 overflow-y-auto border-b border-rule">
        <p className="col-span-2 min-h-11 border-b border-rule px-2 py-2.5">
          In hand: <InHand frame={frame} />
        </p>
        {frame.ledger.map((line) => (
          <Cell key={line.key} line={line} />
        ))}
      </DisclosurePanel>
      <DisclosureButton className="flex min-h-11 w-full items-center justify-between gap-2 px-3">
        {brief.map((line) => (
          <span key={line.key} className="num text-base">
            <span className="label mr-1">{line.label}</span>
            {pick(line.delta)}
          </span>
        ))}
        <span className="label">all</span>
      </DisclosureButton>
    </Disclosure>
  );
}
