import { useState } from "react";
import { Link, useLocation } from "react-router";
import { useJobId } from "../../api/job";
import { confirmJoint, proposeJoints, putLine, useKit } from "../../api/kit";
import type { KitView, Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Debts } from "../../parts/Debts";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Instead } from "./Instead";
import { commonScale } from "./scale";

const WIDEST_PX = 150;
type Joint = Schemas["KitJointView"];
type Place = Schemas["PlaceView"];

/** Which part goes where: each joint with its places, the line that serves each, what lacks. */
export function JointsSheet() {
  const kit = useKit();
  const from = useLocation().state as { words?: string } | null;
  if (kit.isPending) return <Waiting what="the joints" />;
  if (kit.isError) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  const view = kit.data;
  const places = view.joints.flatMap((joint) => joint.places);
  return (
    <div className="px-3 py-3 sm:px-5">
      <h2 className="text-xl">{view.plate}: which part goes where</h2>
      {from?.words && (
        <p role="status" className="my-1 border border-rule bg-sheet px-3 py-1.5">
          {from.words}
        </p>
      )}
      <Proposals view={view} />
      <Debts debts={view.debts} />
      {view.joints.length === 0 && (
        <Empty>No joint yet. Propose them from the list, or build one in Fit-up.</Empty>
      )}
      <ul className="mt-3 grid gap-4 lg:grid-cols-2" aria-label="Joints">
        {view.joints.map((joint) => (
          <JointCard
            key={joint.key}
            joint={joint}
            view={view}
            scale={commonScale(places, WIDEST_PX)}
          />
        ))}
      </ul>
      {view.joints.length > 0 && <Left view={view} scale={commonScale(view.lines, WIDEST_PX)} />}
    </div>
  );
}

/** Lines that no joint uses: spare, or put to a joint as a further part of it. */
function Left({ view, scale }: { view: KitView; scale: number }) {
  const { act, trouble } = useAct();
  const left = view.lines.filter((line) => line.applies && line.state.needed === 0);
  if (left.length === 0) return null;
  const names = Object.fromEntries(view.joints.map((j) => [j.key, `joint ${j.number}, ${j.name}`]));
  return (
    <section aria-label="Parts that no joint uses" className="mt-4">
      <h3 className="border-b border-ink text-lg">In the list, and no joint uses it</h3>
      <ul className="grid lg:grid-cols-2 lg:gap-x-4">
        {left.map((line) => (
          <li
            key={line.key}
            data-left={line.key}
            className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5"
          >
            {line.drawing && <Drawing drawing={line.drawing} scale={scale} />}
            <span className="min-w-0 flex-1 basis-40">
              {line.name} {line.size} <span className="label">{line.count} pieces</span>
            </span>
            <span className="w-44">
              <Choice
                label={`put ${line.name} ${line.size} to`}
                hideLabel
                value=""
                options={["", ...view.joints.map((j) => j.key)]}
                names={{ ...names, "": "put to a joint" }}
                onChange={(joint) =>
                  joint &&
                  void act(putLine(line.key, joint, line.kind === "screw" ? "screw" : "new"))
                }
              />
            </span>
          </li>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}

/** Joints from the list, and those of them that still wait for a look. */
function Proposals({ view }: { view: KitView }) {
  const { act, trouble, busy } = useAct();
  const waiting = view.joints.filter((joint) => joint.proposed).length;
  const can = view.free_mounts > 0 && view.lines.some((line) => line.kind === "screw");
  return (
    <div className="my-2 flex flex-wrap items-center gap-3">
      {can && (
        <Button busy={busy} onClick={() => void act(proposeJoints)}>
          Propose joints from the list
        </Button>
      )}
      {waiting > 0 && (
        <Button busy={busy} onClick={() => void act(confirmJoint())}>
          All {waiting} proposed ones are right
        </Button>
      )}
      <Trouble words={trouble} />
    </div>
  );
}

type CardProps = { joint: Joint; view: KitView; scale: number };

function JointCard({ joint, view, scale }: CardProps) {
  const job = useJobId();
  const { act, trouble, busy } = useAct();
  return (
    <li className="border border-ink bg-sheet" data-joint={joint.key}>
      <div className="flex flex-wrap items-center gap-x-3 border-b border-rule px-3 py-1.5">
        <span className="num text-2xl">{joint.number}</span>
        <span className="min-w-0 flex-1">
          {joint.name} <span className="label">{joint.side}</span>
        </span>
        <VerdictMark verdict={joint.verdict} />
      </div>
      <div className="px-3 py-1.5">
        {joint.words.map((text) => (
          <p key={text}>{text}</p>
        ))}
        {joint.proposed && (
          <p className="flex flex-wrap items-center gap-3">
            <span>Only proposed from the list.</span>
            <Button busy={busy} onClick={() => void act(confirmJoint(joint.key))}>
              It is right
            </Button>
          </p>
        )}
        <Trouble words={trouble} />
        <ul aria-label={`Parts of joint ${joint.number}`}>
          {joint.places.map((place) => (
            <PlaceLine key={place.part} joint={joint} place={place} view={view} scale={scale} />
          ))}
        </ul>
        <Link
          to={`/jobs/${job}/fit-up/${joint.key}`}
          className="inline-flex min-h-11 items-center text-act underline underline-offset-4"
        >
          Its section in Fit-up
        </Link>
      </div>
    </li>
  );
}

type PlaceProps = CardProps & { place: Place };

/** A place of a joint: what it asks for, which line gives it, and what else could stand there. */
function PlaceLine({ joint, place, view, scale }: PlaceProps) {
  const { act, trouble } = useAct();
  const [open, setOpen] = useState(false);
  const line = view.lines.find((l) => l.key === place.line);
  const names = Object.fromEntries(
    view.lines.map((l) => [l.key, `${l.name} ${l.size}${l.bag ? `, bag ${l.bag}` : ""}`]),
  );
  return (
    <li className="grid grid-cols-[auto_1fr] items-center gap-x-3 border-t border-rule py-1.5 sm:grid-cols-[9rem_1fr_auto]">
      <span className="flex min-w-0 items-center">
        {place.drawing && <Drawing drawing={place.drawing} scale={scale} />}
      </span>
      <span className="min-w-0">
        <span className="block">{place.what}</span>
        {place.debt ? (
          <span className="label block">a substitute stands in</span>
        ) : line ? (
          <span className="label block">
            {line.name} {line.size} of the list{line.state.missing > 0 ? ", which is short" : ""}
          </span>
        ) : (
          <span className="block font-semibold">in no line of the list: to buy</span>
        )}
      </span>
      <span className="col-span-2 flex flex-wrap items-end gap-2 sm:col-span-1">
        {place.could.some((key) => key !== place.line) && (
          <span className="w-40">
            <Choice
              label={`line for ${place.kind} of joint ${joint.number}`}
              hideLabel
              value={place.line}
              options={place.line ? place.could : ["", ...place.could]}
              names={{ ...names, "": "choose a line" }}
              onChange={(key) => key && void act(putLine(key, joint.key, place.part))}
            />
          </span>
        )}
        <Button
          tone="quiet"
          aria-expanded={open}
          aria-label={`Use another ${place.kind} in joint ${joint.number}`}
          onClick={() => setOpen(!open)}
        >
          Use another
        </Button>
      </span>
      <Trouble words={trouble} />
      {open && (
        <div className="col-span-full">
          <Instead joint={joint} place={place} view={view} close={() => setOpen(false)} />
        </div>
      )}
    </li>
  );
}
