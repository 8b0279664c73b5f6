import { useState } from "react";
import { takeOutline } from "../../api/survey";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { FilePick } from "../../parts/FilePick";
import { Folded } from "../../parts/Folded";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";

const UNITS = ["", "mm", "cm", "m", "in"] as const;
const FRONTS = ["top", "bottom", "left", "right"] as const;
const SEEN = ["from below", "from above"] as const;
const BECOMES = ["belly", "piece"] as const;

/** A traced outline from a DXF or SVG file; the unit is asked when the file does not say. */
export function OutlineForm({ plateKey }: { plateKey: string }) {
  const { act, trouble, busy } = useAct();
  const [file, setFile] = useState<File | null>(null);
  const [unit, setUnit] = useState<(typeof UNITS)[number]>("");
  const [front, setFront] = useState<(typeof FRONTS)[number]>("top");
  const [seen, setSeen] = useState<(typeof SEEN)[number]>("from below");
  const [becomes, setBecomes] = useState<(typeof BECOMES)[number]>("belly");
  const send = async () => {
    if (!file) return;
    const text = await file.text();
    const kind = file.type === "image/svg+xml" ? "svg" : "dxf";
    const done = await act(takeOutline(plateKey, { kind, text, unit, front, seen, becomes }));
    if (done) setFile(null);
  };
  return (
    <Folded title="Take the outline from a traced DXF or SVG file">
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
        <Choice
          label="unit"
          value={unit}
          options={UNITS}
          names={{ "": "as the file says" }}
          onChange={(u) => setUnit(u as typeof unit)}
        />
        <Choice
          label="front of the bike is"
          value={front}
          options={FRONTS}
          onChange={(f) => setFront(f as typeof front)}
        />
        <Choice
          label="traced as seen"
          value={seen}
          options={SEEN}
          onChange={(s) => setSeen(s as typeof seen)}
        />
        <Choice
          label="it becomes"
          value={becomes}
          options={BECOMES}
          names={{ belly: "the belly", piece: "a further piece" }}
          onChange={(b) => setBecomes(b as typeof becomes)}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <FilePick
          words={file ? file.name : "Choose the file"}
          accept=".dxf,.svg,image/svg+xml"
          pick={setFile}
          testId="outline-file"
        />
        <Button tone="main" disabled={!file} busy={busy} onClick={() => void send()}>
          {busy ? "Reading the outline …" : "Take the outline in"}
        </Button>
      </div>
      <Trouble words={trouble} className="mt-1" />
    </Folded>
  );
}
