import type { ReactNode } from "react";
import { useKeep } from "../../api/keep";
import type { KeepView } from "../../api/types";
import { Failed, Waiting } from "../../parts/States";

/** Shows a sheet of Keep once its view is there; without a link the last one stays. */
export function WithKeep({ children }: { children: (view: KeepView) => ReactNode }) {
  const keep = useKeep();
  if (keep.isPending) return <Waiting what="what is due" />;
  if (!keep.data) return <Failed error={keep.error} retry={() => void keep.refetch()} />;
  return children(keep.data);
}
