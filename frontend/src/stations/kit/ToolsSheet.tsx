import { useState } from "react";
import { addTool, useTools } from "../../api/kit";
import type { Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { ItemList } from "../../parts/ItemList";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { commonScale } from "./scale";

const WIDEST_PX = 140;
type View = Schemas["ToolsView"];
type Sum = View["needed"][number];

/** Tools: both sides of every joint, against the garage and the trail roll of this bike. */
export function ToolsSheet() {
  const tools = useTools();
  if (tools.isPending) return <Waiting what="the tools" />;
  if (tools.isError) return <Failed error={tools.error} retry={() => void tools.refetch()} />;
  const view = tools.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <h2 className="text-xl">Tools for the {view.plate}</h2>
      {view.needed.length === 0 ? (
        <Empty>No joint is there yet, so no tool is asked for.</Empty>
      ) : (
        <>
          <Lacking view={view} />
          <section aria-label="All tools" className="mt-3">
            <h3 className="border-b border-ink text-lg">Needed for this plate</h3>
            <ul>
              {view.needed.map((tool) => (
                <ToolLine key={tool.tool + tool.joints.join()} tool={tool} />
              ))}
            </ul>
          </section>
        </>
      )}
      <ItemList
        title="In the garage and in the trail roll"
        items={view.own}
        where="bike.tools"
        add="Add a tool"
        empty="Nothing entered yet: tap “I have it” above, or add what lies in the roll."
      />
      <Spares view={view} />
      <ByJoint view={view} />
      <p className="mt-3 text-sm text-quiet">
        {view.sources
          .map((source) => `${source.text} (${source.confidence} confidence)`)
          .join("; ")}
      </p>
    </div>
  );
}

function Lacking({ view }: { view: View }) {
  const list = (words: string, tools: readonly string[], none: string) => (
    <div className="border border-ink bg-sheet p-3">
      <h3 className="text-lg">{words}</h3>
      {tools.length === 0 ? (
        <p>{none}</p>
      ) : (
        <ul>
          {tools.map((tool) => (
            <li key={tool} className="num text-xl">
              {tool}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
  return (
    <div className="mt-2 grid gap-3 sm:grid-cols-2">
      {list("Lacking for the work", view.lacking, "All of it is there.")}
      {list("The roll lacks on the trail", view.roll_lacks, "The roll takes this plate off.")}
    </div>
  );
}

function ToolLine({ tool }: { tool: Sum }) {
  const { act, trouble, busy } = useAct();
  const where = [tool.in_garage && "in the garage", tool.in_roll && "in the roll"]
    .filter(Boolean)
    .join(" and ");
  return (
    <li
      className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1"
      data-tool={tool.tool}
    >
      <span className="num w-44 text-xl">{tool.tool}</span>
      <span className="min-w-0 flex-1 basis-48">
        joint {tool.joints.join(", ")}
        {tool.instead.length > 0 && (
          <span className="block text-sm">or {tool.instead.join(", ")}</span>
        )}
        <span className="label block">{where || "not entered as there"}</span>
      </span>
      {!tool.in_garage && (
        <Button tone="quiet" busy={busy} onClick={() => void act(addTool(tool.tool, "garage"))}>
          I have it
        </Button>
      )}
      {!tool.in_roll && (
        <Button tone="quiet" busy={busy} onClick={() => void act(addTool(tool.tool, "trail roll"))}>
          Into the roll
        </Button>
      )}
      <Trouble words={trouble} />
    </li>
  );
}

/** Screws to carry: the fewest of which one serves any joint. */
function Spares({ view }: { view: View }) {
  if (view.spares.length === 0 && view.no_spare.length === 0) return null;
  return (
    <section aria-label="Screws to carry" className="mt-4">
      <h3 className="border-b border-ink text-lg">
        Screws to carry: the fewest that serve any joint
      </h3>
      <ul>
        {view.spares.map((spare) => (
          <li
            key={spare.what + spare.drive}
            className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1"
          >
            <span className="num w-8 text-2xl">{spare.count}</span>
            {spare.drawing && (
              <Drawing drawing={spare.drawing} scale={commonScale(view.spares, WIDEST_PX)} />
            )}
            <span className="min-w-0 flex-1 basis-40">
              <span className="num block text-xl">{spare.what}</span>
              <span className="label block">
                {spare.drive} · joint {spare.joints.join(", ")}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {view.loose.length > 0 && (
        <>
          <h4 className="mt-2 text-lg">and what lies loose under them</h4>
          <ul aria-label="Loose parts to carry">
            {view.loose.map((part) => (
              <li key={part.what} className="flex gap-3 border-b border-rule py-0.5">
                <span className="num w-8 text-xl">{part.count}</span>
                <span className="min-w-0 flex-1">
                  {part.what}
                  <span className="label block">joint {part.joints.join(", ")}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {view.no_spare.length > 0 && (
        <p>No length fits joint {view.no_spare.join(", ")}: nothing can be carried for it yet.</p>
      )}
    </section>
  );
}

/** Each joint's two sides, and the room around its head that decides which tool gets in. */
function ByJoint({ view }: { view: View }) {
  const [open, setOpen] = useState(0);
  if (view.by_joint.length === 0) return null;
  return (
    <section aria-label="Tools by joint" className="mt-4">
      <h3 className="border-b border-ink text-lg">Both sides of every joint</h3>
      <ul>
        {view.by_joint.map((joint) => (
          <li key={joint.joint + joint.name} className="border-b border-rule py-1">
            <div className="flex flex-wrap items-center gap-x-3">
              <span className="num w-8 text-xl">{joint.joint}</span>
              <span className="min-w-0 flex-1 basis-48">
                {joint.name}
                <span className="block">
                  turned: {joint.turned.fits.join(" or ") || "no tool gets in"}
                  {joint.held ? ` · held: ${joint.held.fits.join(" or ") || joint.held.words}` : ""}
                  {joint.special ? ` · ${joint.special}` : ""}
                </span>
                {joint.turned.words && <b className="block">{joint.turned.words}</b>}
              </span>
              {joint.fields.length > 0 && (
                <Button
                  tone="quiet"
                  aria-expanded={open === joint.joint}
                  aria-label={`Recess or access hole of joint ${joint.joint}`}
                  onClick={() => setOpen(open === joint.joint ? 0 : joint.joint)}
                >
                  Recess or access hole
                </Button>
              )}
            </div>
            {open === joint.joint && joint.fields.length > 0 && (
              <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
                {joint.fields.map((field) => (
                  <Field key={field.path} field={field} />
                ))}
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
