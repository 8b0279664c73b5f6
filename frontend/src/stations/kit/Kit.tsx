import { useState } from "react";
import { useJobId } from "../../api/job";
import { countAll, useKit } from "../../api/kit";
import type { KitView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Choice } from "../../parts/Choice";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { BenchGroup } from "./BenchLine";
import { GROUPS, type Grouping, grouped } from "./groups";
import { type Found, Identify } from "./Identify";
import { NewLine } from "./NewLine";
import { OneByOne } from "./OneByOne";
import { PasteList } from "./PasteList";
import { commonScale } from "./scale";
import { RulerCheck, storedScale } from "./TrueSize";

const WIDEST_PX = 200;
type Panel = "" | "identify" | "paste" | "new" | "ruler" | "one";

/** The bench: what the list says, laid out to scale and counted by finding. */
export function Kit() {
  const kit = useKit();
  const [panel, setPanel] = useState<Panel>("");
  const [open, setOpen] = useState("");
  const [how, setHow] = useState<Grouping>("list");
  const [seen, setSeen] = useState<Found>({ thread: "", length: "" });
  const [truly, setTruly] = useState(storedScale);
  if (kit.isPending) return <Waiting what="the kit" />;
  if (kit.isError) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  const view = kit.data;
  const close = () => setPanel("");
  const scale = truly ?? commonScale(view.lines, WIDEST_PX);
  return (
    <div className="px-3 py-3 sm:px-5">
      <Head view={view} panel={panel} setPanel={setPanel} truly={truly !== null} />
      {panel === "paste" && <PasteList close={close} />}
      {panel === "identify" && (
        <Identify
          forms={view.head_forms}
          close={close}
          onNew={(found) => {
            setSeen(found);
            setPanel("new");
          }}
        />
      )}
      {panel === "new" && <NewLine view={view} seen={seen} close={close} />}
      {panel === "ruler" && (
        <RulerCheck
          done={(px) => {
            setTruly(px);
            close();
          }}
        />
      )}
      {view.lines.length === 0 && (
        <Empty>No line yet. Paste the plate's list, or add what it says line by line.</Empty>
      )}
      {panel === "one" ? (
        <OneByOne lines={view.lines} scale={truly} close={close} />
      ) : (
        <>
          {view.lines.length > 0 && <Layout view={view} how={how} setHow={setHow} />}
          {grouped(view.lines, how, view.joints).map((group) => (
            <BenchGroup
              key={group.title}
              title={group.title}
              lines={group.lines}
              scale={scale}
              open={open}
              toggle={setOpen}
            />
          ))}
        </>
      )}
    </div>
  );
}

type HeadProps = {
  view: KitView;
  panel: Panel;
  setPanel: (panel: Panel) => void;
  truly: boolean;
};

function Head({ view, panel, setPanel, truly }: HeadProps) {
  const job = useJobId();
  const button = (key: Panel, words: string) => (
    <Button aria-pressed={panel === key} onClick={() => setPanel(panel === key ? "" : key)}>
      {words}
    </Button>
  );
  return (
    <>
      <h2 className="text-xl">{view.plate}: its hardware on the bench</h2>
      <Cautions texts={view.cautions} />
      <div className="flex flex-wrap items-center gap-2">
        {button("identify", "Identify a screw")}
        {button("paste", "Paste a list")}
        {button("new", "Add a line")}
        {view.lines.length > 0 && button("one", "One line at a time")}
        {view.lines.length > 0 && button("ruler", truly ? "True size: on" : "True size")}
        {view.lines.length > 0 && (
          <a
            className="inline-flex min-h-11 items-center px-2 font-semibold text-act underline underline-offset-4"
            href={`/api/jobs/${job}/kit/list.csv`}
            download="kit-list.csv"
          >
            Save the list as CSV
          </a>
        )}
      </div>
    </>
  );
}

type LayoutProps = { view: KitView; how: Grouping; setHow: (how: Grouping) => void };

/** How the lines lie, and one tap for a kit that is whole. */
function Layout({ view, how, setHow }: LayoutProps) {
  const { act, trouble, busy } = useAct();
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      <span className="w-44">
        <Choice
          label="laid out"
          value={how}
          options={Object.keys(GROUPS)}
          names={GROUPS}
          onChange={(value) => setHow(value as Grouping)}
        />
      </span>
      {view.uncounted > 0 && (
        <Button tone="quiet" busy={busy} onClick={() => void act(countAll())}>
          All {view.uncounted} lines that are not counted are there
        </Button>
      )}
      <Trouble words={trouble} />
    </div>
  );
}
