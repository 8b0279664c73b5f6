import type { ButtonHTMLAttributes } from "react";

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  tone?: "main" | "plain" | "quiet";
  /** Something is under way: presses are ignored, but the focus stays where it is. */
  busy?: boolean;
};

const TONES = {
  main: "bg-act text-paper border-act hover:bg-ink hover:border-ink",
  plain: "bg-sheet text-act border-act hover:bg-paper",
  quiet: "bg-transparent text-act border-transparent underline underline-offset-4 decoration-1",
};

/** A button with a verb on it; 44 px at least. */
export function Button({
  tone = "plain",
  busy = false,
  className = "",
  type = "button",
  onClick,
  ...rest
}: Props) {
  return (
    <button
      type={type}
      aria-disabled={busy || undefined}
      onClick={busy ? undefined : onClick}
      className={`min-h-11 cursor-pointer border px-3.5 aria-disabled:cursor-progress py-1.5 font-semibold leading-tight disabled:cursor-not-allowed disabled:border-rule disabled:bg-paper disabled:text-quiet ${TONES[tone]} ${className}`}
      {...rest}
    />
  );
}
