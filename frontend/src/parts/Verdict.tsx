import type { Verdict } from "../api/types";

const SHAPES: Record<Verdict, React.ReactNode> = {
  sound: (
    <>
      <rect x="1" y="1" width="14" height="14" className="fill-sound" />
      <path d="M4 8.5 7 11.5 12 4.5" className="stroke-paper" strokeWidth="2" fill="none" />
    </>
  ),
  assumed: (
    <>
      <rect
        x="1.6"
        y="1.6"
        width="12.8"
        height="12.8"
        className="stroke-sound"
        strokeWidth="1.6"
        strokeDasharray="2.6 2"
        fill="none"
      />
      <path d="M4 8.5 7 11.5 12 4.5" className="stroke-sound" strokeWidth="2" fill="none" />
    </>
  ),
  mind: (
    <>
      <path d="M8 0.5 16 15.5H0Z" className="fill-mind" />
      <path d="M8 6v4.5M8 12v1.6" className="stroke-paper" strokeWidth="1.8" fill="none" />
    </>
  ),
  blocked: (
    <>
      <path d="M5 0.5h6L15.5 5v6L11 15.5H5L0.5 11V5Z" className="fill-blocked" />
      <path d="M4 8h8" className="stroke-paper" strokeWidth="2.4" fill="none" />
    </>
  ),
  "not known": (
    <circle
      cx="8"
      cy="8"
      r="6.4"
      className="stroke-ink"
      strokeWidth="1.8"
      strokeDasharray="3 2.4"
      fill="none"
    />
  ),
};

/** How a verdict reads where its own word says too little. */
const SAID: Partial<Record<Verdict, string>> = { assumed: "sound, on assumed numbers" };

export const verdictWords = (verdict: Verdict) => SAID[verdict] ?? verdict;

/** A verdict: its own shape and always its word. */
export function VerdictMark({ verdict, quiet }: { verdict: Verdict; quiet?: boolean }) {
  return (
    <span data-verdict={verdict} className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg viewBox="0 0 16 16" className="size-4 shrink-0" aria-hidden="true">
        {SHAPES[verdict]}
      </svg>
      <span className={quiet ? "sr-only" : "font-semibold"}>{verdictWords(verdict)}</span>
    </span>
  );
}
