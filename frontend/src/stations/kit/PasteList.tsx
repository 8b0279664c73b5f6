import { useCallback } from "react";
import { useJobId } from "../../api/job";
import { importLines, previewLines } from "../../api/kit";
import { TypedTable } from "../../parts/TypedTable";
import { useUnits } from "../../parts/units";

/** A sheet's list pasted or read from a CSV file, shown as understood before it is taken in. */
export function PasteList({ close }: { close: () => void }) {
  const job_id = useJobId();
  const { system } = useUnits();
  const preview = useCallback(
    (text: string) => previewLines(job_id, { text, system }),
    [job_id, system],
  );
  return (
    <TypedTable
      title="Paste a list"
      noun="line"
      label="a line for each part, as it stands on the sheet; or a table, with any separator"
      placeholder={"4 M8x20 hex bolt\n12 M8 washers\n2x bracket left\nspacer 15 mm (4)"}
      preview={preview}
      take={(text) => importLines({ text, system })}
      fromFile
      close={close}
    />
  );
}
