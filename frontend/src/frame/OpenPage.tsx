import { type ReactNode, useState } from "react";
import { useUnits } from "../parts/units";
import { useShortcuts } from "../parts/useShortcuts";
import { useTitle } from "../parts/useTitle";
import { Keys } from "./Keys";
import { Tools } from "./Tools";

type Props = { title: string; children: ReactNode; footer?: ReactNode };

/** A page outside any job: the name, the tools, the keys. */
export function OpenPage({ title, children, footer }: Props) {
  useTitle(title);
  const { toggle } = useUnits();
  const [sheet, setSheet] = useState(false);
  useShortcuts({ u: toggle, "?": () => setSheet(true) });
  return (
    <div data-open-page className="mx-auto flex min-h-dvh max-w-5xl flex-col px-4 sm:px-8">
      <header className="flex items-center gap-3 border-b-2 border-ink py-4">
        <h1 className="stamp flex-1 text-3xl text-act">Rugged Shield</h1>
        <Tools openSheet={() => setSheet(true)} />
      </header>
      <main className="flex-1 py-5">{children}</main>
      {footer}
      <Keys open={sheet} close={() => setSheet(false)} />
    </div>
  );
}
