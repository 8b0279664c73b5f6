import { lazy, Suspense } from "react";

const ShortcutSheet = lazy(() =>
  import("../parts/ShortcutSheet").then((m) => ({ default: m.ShortcutSheet })),
);

/** The sheet of keys, fetched when it is first asked for. */
export function Keys({ open, close }: { open: boolean; close: () => void }) {
  if (!open) return null;
  return (
    <Suspense fallback={null}>
      <ShortcutSheet open={open} close={close} />
    </Suspense>
  );
}
