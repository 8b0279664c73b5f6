type Props = { words: string; shades: readonly { fill: string; words: string }[] };

/** What each shade of a map means. */
export function Shades({ words, shades }: Props) {
  return (
    <p className="flex flex-wrap gap-x-4 text-sm">
      <span className="text-quiet">{words}</span>
      {shades.map((shade) => (
        <span key={shade.fill} className="inline-flex items-center gap-1.5">
          <svg viewBox="0 0 16 12" className="h-3 w-4 border border-ink" aria-hidden="true">
            <rect width="16" height="12" className={`f-${shade.fill.replace(" ", "-")}`} />
          </svg>
          {shade.words}
        </span>
      ))}
    </p>
  );
}
