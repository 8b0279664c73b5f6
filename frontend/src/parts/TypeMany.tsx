import { useCallback } from "react";
import { useJobId } from "../api/job";
import { previewRows, type RowsOf, takeRows } from "../api/rows";
import { TypedTable } from "./TypedTable";
import { useUnits } from "./units";

const WORDS: Record<RowsOf, { title: string; noun: string; label: string; example: string }> = {
  mounts: {
    title: "Type many mounts",
    noun: "mount",
    label:
      "a line for each mount; one whose number is there is corrected, what is left out is assumed from its kind",
    example: "number; name; x; y; z; thread; kind\n5; rear tab, left; 905; -92; 301; M8; frame tab",
  },
  parts: {
    title: "Type many parts",
    noun: "part",
    label: "a line for each part: the box that it fills",
    example:
      "name; shape; x from; x to; y from; y to; z from; z to; kind\nsump; sump; 560; 880; -120; 60; 330; 380; vital",
  },
  openings: {
    title: "Type many openings",
    noun: "opening",
    label: "a line for each opening; one size alone makes it round",
    example: "for; from the front edge; to the right; width; height\ndrain; 210; 0; 40",
  },
  layers: {
    title: "Type many layers",
    noun: "layer",
    label: "a line for each layer; put it behind another by name, or under the head",
    example:
      "joint; layer; thickness; material; behind\n3; spacer; 12; aluminium\n3; washer; 1.6; steel; under the head",
  },
};

type Props = { where: RowsOf; plate?: string; close: () => void };

/** Many mounts, parts, openings or layers at once, typed or pasted from a spreadsheet. */
export function TypeMany({ where, plate = "", close }: Props) {
  const job_id = useJobId();
  const { system } = useUnits();
  const words = WORDS[where];
  const preview = useCallback(
    (text: string) => previewRows(job_id, { where, plate, text, system }),
    [job_id, where, plate, system],
  );
  return (
    <TypedTable
      title={words.title}
      noun={words.noun}
      label={words.label}
      placeholder={words.example}
      preview={preview}
      take={(text) => takeRows({ where, plate, text, system })}
      close={close}
    />
  );
}
