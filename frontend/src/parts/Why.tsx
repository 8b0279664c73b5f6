import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState } from "react";
import type { Figure } from "../api/types";
import { Button } from "./Button";
import { usePick } from "./units";
import { VerdictMark } from "./Verdict";

function List({ title, items }: { title: string; items: readonly string[] }) {
  if (items.length === 0) return null;
  return (
    <section className="mt-4">
      <h3 className="label mb-1">{title}</h3>
      <ul className="space-y-1">
        {items.map((item) => (
          <li key={item} className="border-l-2 border-rule pl-2.5">
            {item}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The reason slip of a figure: everything the core returned with it. */
function Slip({ figure, close }: { figure: Figure; close: () => void }) {
  const pick = usePick();
  return (
    <DialogPanel className="slip absolute inset-y-0 right-0 w-full max-w-md overflow-y-auto border-l border-ink bg-sheet p-5">
      <div className="flex items-start justify-between gap-4">
        <DialogTitle className="stamp text-lg">Why this number</DialogTitle>
        <Button tone="plain" onClick={close}>
          Close
        </Button>
      </div>
      <p className="mt-3">{figure.label}</p>
      <p className="num text-4xl" data-testid="why-value">
        {pick(figure)}
      </p>
      {figure.findings.map((f) => (
        <p key={f.text} className="mt-2 flex gap-2">
          <VerdictMark verdict={f.verdict} /> <span>{f.text}</span>
        </p>
      ))}
      <List title="How it comes about" items={figure.reasons} />
      {figure.inputs.length > 0 && (
        <section className="mt-4">
          <h3 className="label mb-1">What went in</h3>
          <table className="w-full" data-testid="why-inputs">
            <tbody>
              {figure.inputs.map((input) => (
                <tr key={input.label} className="border-b border-rule align-top">
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    {input.label}
                  </th>
                  <td className="py-1 text-right tabular-nums">{pick(input)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      <List title="Taken for granted" items={figure.assumptions} />
      <List title="Warnings" items={figure.warnings} />
      <List
        title="Where it comes from"
        items={figure.sources.map((s) => `${s.text} · ${s.confidence} confidence`)}
      />
    </DialogPanel>
  );
}

/** A number that opens its reason. */
export function Why({ figure, className = "" }: { figure: Figure; className?: string }) {
  const [open, setOpen] = useState(false);
  const pick = usePick();
  const close = () => setOpen(false);
  return (
    <>
      <button
        type="button"
        className={`why num cursor-pointer whitespace-nowrap ${className}`}
        onClick={() => setOpen(true)}
        aria-label={`${figure.label}: ${pick(figure)}. Show why`}
        data-figure={figure.key}
      >
        {pick(figure)}
      </button>
      <Dialog open={open} onClose={close} className="relative z-50">
        <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
        <div className="fixed inset-0">{open && <Slip figure={figure} close={close} />}</div>
      </Dialog>
    </>
  );
}
