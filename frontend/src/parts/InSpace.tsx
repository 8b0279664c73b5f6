import { useState } from "react";
import { type Shown, useSpace } from "../api/space";
import { Drawing } from "../drawing/Drawing";
import { Button } from "./Button";
import { Failed, Waiting } from "./States";

type Props = {
  /** Begin with the plate alone; without it on its bike. */
  alone?: boolean;
  className?: string;
};

/** The plate in space, turned by buttons; what is hidden is dashed. */
export function InSpace({ alone = false, className = "h-96 w-full" }: Props) {
  const [turn, setTurn] = useState(1);
  const [height, setHeight] = useState(1);
  const [what, setWhat] = useState<Shown>(alone ? "alone" : "on the bike");
  const space = useSpace(turn, height, what);
  if (space.isPending) return <Waiting what="the plate in space" />;
  if (space.isError) return <Failed error={space.error} retry={() => void space.refetch()} />;
  const { drawing, turns, heights, ways, plate } = space.data;
  const other: Shown = what === "alone" ? "on the bike" : "alone";
  return (
    <figure aria-label={`${plate} in space`} aria-busy={space.isPlaceholderData}>
      <Drawing drawing={drawing} className={className} />
      <div className="flex flex-wrap gap-2">
        <Button className="min-h-14!" onClick={() => setTurn((turn + turns - 1) % turns)}>
          Round to its left
        </Button>
        <Button className="min-h-14!" onClick={() => setTurn((turn + 1) % turns)}>
          Round to its right
        </Button>
        <Button
          className="min-h-14!"
          disabled={height === heights - 1}
          onClick={() => setHeight(height + 1)}
        >
          From higher
        </Button>
        <Button className="min-h-14!" disabled={height === 0} onClick={() => setHeight(height - 1)}>
          From lower
        </Button>
        <Button className="min-h-14!" onClick={() => setWhat(other)}>
          {other === "alone" ? "The plate alone" : "On the bike"}
        </Button>
      </div>
      <figcaption className="mt-1 text-quiet">
        {drawing.title}. Dashed: edges that something hides. Numbers: joints that can be seen.
        {ways.map((way) => (
          <span key={way} className="block text-ink">
            {way}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
