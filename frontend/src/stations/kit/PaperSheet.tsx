import { useState } from "react";
import { wordsFor } from "../../api/errors";
import { photoAt } from "../../api/files";
import { useJobId } from "../../api/job";
import { dropPage, keepPage, sendPage, useKit } from "../../api/kit";
import { useWrite } from "../../api/writes";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { FilePick } from "../../parts/FilePick";
import { Failed, Waiting } from "../../parts/States";
import { useAct } from "../../parts/useAct";
import { Revision } from "./Revision";

/** The plate's sheet: which revision, its pages to look at, and what a new one alters. */
export function PaperSheet() {
  const kit = useKit();
  const [open, setOpen] = useState(false);
  if (kit.isPending) return <Waiting what="the sheet" />;
  if (kit.isError) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  const view = kit.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <h2 className="text-xl">The sheet of the {view.plate}</h2>
      <div className="mt-2 grid max-w-xl grid-cols-2 gap-3">
        {view.sheet.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <div className="my-3">
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          The sheet was revised
        </Button>
      </div>
      {open && <Revision close={() => setOpen(false)} />}
      <Pages pages={view.sheet.pages} />
    </div>
  );
}

function Pages({ pages }: { pages: readonly string[] }) {
  const job = useJobId();
  const write = useWrite();
  const { act, busy } = useAct();
  const [state, setState] = useState("");
  const take = async (file: File) => {
    setState("Reading the page …");
    try {
      for (const photo of await sendPage(job, file)) await write(keepPage(photo));
      setState("");
    } catch (error) {
      setState(wordsFor(error));
    }
  };
  return (
    <section aria-label="Pages of the sheet">
      <div className="flex flex-wrap items-center gap-3 border-b border-ink pb-1">
        <h3 className="flex-1 text-lg">Its pages</h3>
        <FilePick
          words="Add a photo or a PDF"
          accept="image/jpeg,image/png,application/pdf"
          pick={(file) => void take(file)}
        />
      </div>
      {state && <p role="status">{state}</p>}
      {pages.length === 0 && (
        <p className="py-2 text-quiet">
          Nothing kept yet. Paper goes astray: keep a picture of it with the job.
        </p>
      )}
      <ul className="grid gap-4 sm:grid-cols-2">
        {pages.map((page, i) => (
          <li key={page} className="mt-3 border border-rule bg-sheet p-2">
            <img src={photoAt(job, page)} alt={`Page ${i + 1} of the sheet`} className="w-full" />
            <Button tone="quiet" busy={busy} onClick={() => void act(dropPage(page))}>
              Take page {i + 1} out
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
