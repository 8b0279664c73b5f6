type Props = {
  /** What went wrong; nothing is shown for none. */
  words: string | undefined;
  className?: string;
};

/** What went wrong, where it went wrong: the one way in which anything refused is said. */
export function Trouble({ words, className = "" }: Props) {
  if (!words) return null;
  return (
    <span role="alert" className={`block font-semibold text-blocked ${className}`}>
      {words}
    </span>
  );
}
