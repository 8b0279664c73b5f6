import type { Drawing } from "../../api/types";

const PX_PER_MM = 2.4;

/** One scale for drawings beside each other, at which the longest has room. */
export const commonScale = (
  lines: readonly { drawing: Drawing | null }[],
  widest_px: number,
  px_per_mm = PX_PER_MM,
) => Math.min(px_per_mm, widest_px / Math.max(1, ...lines.map((l) => l.drawing?.width ?? 0)));
