import { useState } from "react";
import type { FieldView, Figure, Verdict } from "../api/types";
import { Swatch } from "../drawing/Hatches";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { Entry } from "./Entry";
import { Field } from "./Field";
import { Empty, Failed, Waiting } from "./States";
import { ThemeSwitch } from "./ThemeSwitch";
import { VerdictMark } from "./Verdict";
import { Why } from "./Why";

const VERDICTS: readonly Verdict[] = ["sound", "mind", "blocked", "not known"];
const HATCHES = ["aluminium", "steel", "plastic", "rubber", "cast"] as const;

const FIELD: FieldView = {
  path: "example",
  name: "example",
  axis: "",
  label: "thickness",
  kind: "number",
  metric: "5",
  us: "0.1969",
  unit_metric: "mm",
  unit_us: "in",
  allowed_metric: "a number from 0.5 mm to 25.0 mm",
  allowed_us: "a number from 0.020 in to 0.984 in",
  choices: [],
  known: "assumed",
  note_metric: "assumed ± 0.2 mm",
  note_us: "assumed ± 0.008 in",
  takes: "mm",
};

const FIGURE: Figure = {
  key: "example",
  label: "Ground clearance",
  value: 274.4,
  unit: "mm",
  metric: "274.4 mm",
  us: "10.803 in",
  verdict: "mind",
  findings: [
    {
      code: "low clearance",
      text: "16 mm of ground clearance lost.",
      verdict: "mind",
      where: "",
      remedy: "thinner, higher, or less under it",
      decided_by: [],
      amounts: [],
    },
  ],
  inputs: [
    { label: "Lowest point", value: 274.4, unit: "mm", metric: "274.4 mm", us: "10.803 in" },
  ],
  reasons: ["Lowest of plate corners, screw heads and every other low part."],
  assumptions: ["Springs as they stand."],
  warnings: [],
  sources: [{ text: "ISO 612", confidence: "high" }],
};

/** Every own part in every state, seen together so that they stay consistent. */
export function PartsPage() {
  const [choice, setChoice] = useState("M8");
  const [text, setText] = useState("");
  return (
    <main className="mx-auto max-w-5xl px-4 py-6 sm:px-8">
      <div className="flex items-center gap-4">
        <h1 className="stamp flex-1 text-3xl text-act">Parts</h1>
        <ThemeSwitch />
      </div>
      <Group title="Verdicts">
        {VERDICTS.map((v) => (
          <VerdictMark key={v} verdict={v} />
        ))}
      </Group>
      <Group title="Buttons">
        <Button tone="main">Record reading</Button>
        <Button>Add a line</Button>
        <Button tone="quiet">Change</Button>
        <Button disabled>Not now</Button>
        <Button tone="main" busy>
          Under way
        </Button>
      </Group>
      <Group title="Fields">
        <Field field={FIELD} />
        <Field
          field={{
            ...FIELD,
            kind: "text",
            unit_metric: "",
            unit_us: "",
            label: "name",
            metric: "a very long name that goes on and on until it has no room left",
            us: "the same",
          }}
        />
        <Field
          field={{ ...FIELD, kind: "yes or no", label: "left out", metric: "true", us: "true" }}
        />
        <Field
          field={{
            ...FIELD,
            kind: "choice",
            label: "thread",
            metric: "M8",
            us: "M8",
            choices: ["M6", "M8", "M10"],
          }}
        />
        <Entry label="reading" value={text} onChange={setText} unit="N·m" numeric />
        <Entry label="refused" value="99" onChange={() => undefined} unit="mm" invalid />
        <Choice
          label="what"
          value={choice}
          options={["", "M6", "M8", "M10"]}
          onChange={setChoice}
        />
      </Group>
      <Group title="Numbers">
        <Why figure={FIGURE} className="text-xl" />
        <Why figure={FIGURE} className="text-5xl" />
        <span className="label">a label</span>
        <span className="stamp">a stamped word</span>
      </Group>
      <Group title="Hatches">
        {HATCHES.map((name) => (
          <span key={name} className="inline-flex items-center gap-2">
            <Swatch name={name} /> {name}
          </span>
        ))}
      </Group>
      <Group title="States">
        <Waiting what="the joints" />
        <Empty>No line yet. Add what the sheet lists.</Empty>
        <Failed error={new Error("example")} retry={() => undefined} />
      </Group>
    </main>
  );
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-6 border-t border-ink pt-2" aria-label={title}>
      <h2 className="text-xl">{title}</h2>
      <div className="mt-2 flex flex-wrap items-end gap-4">{children}</div>
    </section>
  );
}
