import { useState } from "react";
import { wordsFor } from "../../api/errors";
import { readPhoto, takePhoto } from "../../api/fitup";
import { useJobId } from "../../api/job";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { CORNER_WORDS, SheetPhoto, useSheetPhoto } from "../../parts/SheetPhoto";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

type Props = { view: Schemas["HolesView"]; close: () => void };
type Answer = Schemas["PhotoView"];

/** A photograph beside a sheet of paper: four corners, then at each hole its middle and thread. */
export function PhotoReader({ view, close }: Props) {
  const job = useJobId();
  const photo = useSheetPhoto(view.sheets);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const { points, setPoints } = photo;

  const wanted = [
    ...CORNER_WORDS,
    ...view.rows.flatMap((r) => [
      `hole ${r.number}: the middle of the hole`,
      `hole ${r.number}: the middle of the thread behind it`,
    ]),
  ];
  const asked = () => ({
    ...photo.asked(),
    pairs: view.rows.flatMap((row, i) => {
      const hole = points[4 + 2 * i];
      const thread = points[5 + 2 * i];
      return hole && thread ? [{ joint: row.key, hole, thread }] : [];
    }),
  });
  const read = async () => {
    photo.setRefused("");
    try {
      setAnswer(await readPhoto(job, asked()));
    } catch (error) {
      setAnswer(null);
      photo.setRefused(wordsFor(error));
    }
  };
  const take = async () => {
    const saved = await act(takePhoto(asked()));
    if (saved) close();
  };
  return (
    <section aria-label="From a photograph" className="my-2 border border-ink bg-sheet p-3">
      <SheetPhoto
        photo={photo}
        intro="Lay a sheet of paper flat beside the holes, in their plane, its top edge to the front. Take the picture square to it, as near as shows sheet and holes."
        next={
          points.length < wanted.length
            ? `Tap ${wanted[points.length]}.`
            : "All tapped. Arrow keys still nudge the last one."
        }
        most={wanted.length}
        opened={() => setAnswer(null)}
        testId="hole-photo"
      >
        <Button disabled={points.length === 0} onClick={() => setPoints(points.slice(0, -1))}>
          Take the last tap back
        </Button>
        {points.length >= 4 && points.length < wanted.length && points.length % 2 === 0 && (
          <Button onClick={() => setPoints([...points, null, null])}>
            This hole is not in the picture
          </Button>
        )}
        <Button tone="main" disabled={points.length < 6} onClick={() => void read()}>
          Read millimetres
        </Button>
      </SheetPhoto>
      {answer && (
        <>
          <table className="mt-2 w-full" aria-label="Read from the photograph">
            <tbody>
              {answer.places.map((place) => (
                <tr key={place.joint} className="border-t border-rule">
                  <th scope="row" className="num text-left">
                    {view.rows.find((r) => r.key === place.joint)?.number}
                  </th>
                  <td>right {pick(place.right)}</td>
                  <td>forward {pick(place.forward)}</td>
                  <td>± {pick(place.unsure)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button tone="main" className="mt-2" busy={busy} onClick={() => void take()}>
            Take these as seen
          </Button>
        </>
      )}
      <Trouble words={trouble} />
    </section>
  );
}
