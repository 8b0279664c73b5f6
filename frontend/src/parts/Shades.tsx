import { Swatch } from "../drawing/Hatches";

type Props = { words: string; shades: readonly { fill: string; words: string }[] };

/** What each shade of a map means. */
export function Shades({ words, shades }: Props) {
  return (
    <p className="flex flex-wrap gap-x-4 text-sm">
      <span className="text-quiet">{words}</span>
      {shades.map((shade) => (
        <span key={shade.fill} className="inline-flex items-center gap-1.5">
          <Swatch name={shade.fill} />
          {shade.words}
        </span>
      ))}
    </p>
  );
}
