import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useId, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { wordsFor } from "../api/errors";
import { previewHardware, startFit, useLayouts } from "../api/job";
import type { LayoutsView } from "../api/types";
import { newKey } from "../api/writes";
import { OpenPage } from "../frame/OpenPage";
import { BackToList } from "../parts/BackToList";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Entry } from "../parts/Entry";
import { Failed, Waiting } from "../parts/States";
import { Trouble } from "../parts/Trouble";
import { ListFile, ListPreview, useListPreview } from "../parts/TypedTable";
import { useUnits } from "../parts/units";
import { LayoutPictures } from "./LayoutPictures";

const EXAMPLE =
  "name; size; length; head; class; count\nbelly screw; M8; 20; socket cap; 8.8; 4\nwasher; M8; ; ; ; 4";

/** A plate that lies on the floor: its list and a layout, and straight to its kit. */
export function NewFit() {
  const layouts = useLayouts();
  return (
    <OpenPage title="A plate to fit">
      <h2 className="text-2xl">I have a plate to fit</h2>
      <p className="mb-3 text-quiet">
        A name, a layout and the plate's list are enough: joints are proposed from it, each to
        confirm or change. Everything else is assumed and says so; measure it when it matters.
      </p>
      {layouts.isPending && <Waiting what="the layouts" />}
      {layouts.isLoadingError && (
        <Failed error={layouts.error} retry={() => void layouts.refetch()} />
      )}
      {layouts.data && <PlateToFit layouts={layouts.data} />}
      <BackToList />
    </OpenPage>
  );
}

function PlateToFit({ layouts }: { layouts: LayoutsView }) {
  const { system } = useUnits();
  const [typed, setTyped] = useState({
    name: "",
    layout: "single",
    plate: "",
    material: "",
    thickness: "",
  });
  const [text, setText] = useState("");
  const ask = useCallback((list: string) => previewHardware({ text: list, system }), [system]);
  const seen = useListPreview(text, ask);
  const { start, trouble, busy } = useFit();
  const set = (part: Partial<typeof typed>) => setTyped({ ...typed, ...part });
  const send = () => void start({ ...typed, text, system });
  return (
    <form
      aria-label="A plate to fit"
      onSubmit={(event) => event.preventDefault()}
      className="grid gap-x-5 gap-y-3 sm:grid-cols-2 lg:grid-cols-4"
    >
      <Entry label="what you call the bike" value={typed.name} onChange={(name) => set({ name })} />
      <Entry
        label="what you call the plate (may stay empty)"
        value={typed.plate}
        onChange={(plate) => set({ plate })}
      />
      <Choice
        label="material of the plate"
        value={typed.material}
        options={["", ...layouts.materials]}
        names={{ "": "not known yet" }}
        onChange={(material) => set({ material })}
      />
      <Entry
        label="thickness of the plate (may stay empty)"
        value={typed.thickness}
        onChange={(thickness) => set({ thickness })}
        unit={system === "us" ? "in" : "mm"}
        numeric
      />
      <div className="sm:col-span-2 lg:col-span-4">
        <LayoutPictures
          pictures={layouts.pictures}
          value={typed.layout}
          onChange={(layout) => set({ layout })}
        />
      </div>
      <div className="sm:col-span-2 lg:col-span-4">
        <ListArea text={text} setText={setText} />
        <Trouble words={seen.trouble} className="mt-2" />
        {seen.preview && <ListPreview view={seen.preview} />}
        <Trouble words={trouble} className="mt-2" />
        <Button tone="main" busy={busy} onClick={send} className="mt-3">
          {busy ? "Laying it out …" : "Lay the kit out"}
        </Button>
      </div>
    </form>
  );
}

/** Sends what was typed and opens the kit of the job that came of it. */
function useFit() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const key = useRef(newKey());
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const start = async (body: Omit<Parameters<typeof startFit>[0], "key">) => {
    setBusy(true);
    setTrouble("");
    try {
      const made = await startFit({ ...body, key: key.current });
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${made.id}/kit/joints`, { state: { words: made.words } });
    } catch (error) {
      setTrouble(wordsFor(error));
    } finally {
      setBusy(false);
    }
  };
  return { start, trouble, busy };
}

function ListArea({ text, setText }: { text: string; setText: (text: string) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className="label block">
        the plate's hardware list, a line for each part: pasted, typed, or read from a file
      </label>
      <textarea
        id={id}
        className="input h-36 w-full py-2 font-mono text-sm"
        value={text}
        spellCheck={false}
        placeholder={EXAMPLE}
        onChange={(event) => setText(event.target.value)}
      />
      <ListFile take={setText} />
    </>
  );
}
