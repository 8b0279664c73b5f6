import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "./Button";

const SHORTCUTS: readonly (readonly [string, string])[] = [
  ["1 – 6", "go to a station"],
  ["G", "garage mode"],
  ["L", "work list"],
  ["Z, Y", "undo, redo"],
  ["U", "switch units"],
  ["?", "this sheet"],
  ["Esc", "close, or put a field back"],
  ["Enter", "save a field; in garage mode: done"],
  ["← →", "garage mode: previous, next step"],
];

/** The sheet of shortcuts. */
export function ShortcutSheet({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Dialog open={open} onClose={close} className="relative z-50">
      <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-md border border-ink bg-sheet p-5">
          <DialogTitle className="stamp text-lg">Keys</DialogTitle>
          <dl className="mt-3">
            {SHORTCUTS.map(([key, words]) => (
              <div key={key} className="flex gap-4 border-b border-rule py-1.5">
                <dt className="num w-20">{key}</dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
          <Button className="mt-4" onClick={close}>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
