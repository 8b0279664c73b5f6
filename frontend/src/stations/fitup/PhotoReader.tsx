import { readPhoto, takePhoto } from "../../api/fitup";
import { useJobId } from "../../api/job";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import {
  nextOf,
  ReadPlaces,
  SHEET_WORDS,
  SheetPhoto,
  TapActs,
  useReading,
  useSheetPhoto,
} from "../../parts/SheetPhoto";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

type Props = { view: Schemas["HolesView"]; close: () => void };

/** A photograph beside a sheet of paper: four corners, then at each hole its middle and thread. */
export function PhotoReader({ view, close }: Props) {
  const job = useJobId();
  const photo = useSheetPhoto(view.sheets);
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const { points, setPoints } = photo;

  const wanted = [
    ...SHEET_WORDS,
    ...view.rows.flatMap((r) => [
      `hole ${r.number}: the middle of the hole`,
      `hole ${r.number}: the middle of the thread behind it`,
    ]),
  ];
  const asked = () => ({
    ...photo.asked(),
    pairs: view.rows.flatMap((row, i) => {
      const hole = points[SHEET_WORDS.length + 2 * i];
      const thread = points[SHEET_WORDS.length + 2 * i + 1];
      return hole && thread ? [{ joint: row.key, hole, thread }] : [];
    }),
  });
  const { answer, read, forget } = useReading(photo, () => readPhoto(job, asked()));
  const take = async () => {
    const saved = await act(takePhoto(asked()));
    if (saved) close();
  };
  return (
    <section aria-label="From a photograph" className="my-2 border border-ink bg-sheet p-3">
      <SheetPhoto
        photo={photo}
        intro="Lay a sheet of paper flat beside the holes, in their plane, its top edge to the front. Take the picture square to it, as near as shows sheet and holes."
        next={nextOf(wanted, points)}
        most={wanted.length}
        opened={forget}
        testId="hole-photo"
      >
        <TapActs photo={photo} read={read} least={SHEET_WORDS.length + 2}>
          {points.length < wanted.length && points.length % 2 === 0 && (
            <Button onClick={() => setPoints([...points, null, null])}>
              This hole is not in the picture
            </Button>
          )}
        </TapActs>
      </SheetPhoto>
      {answer && (
        <ReadPlaces
          label="Read from the photograph"
          rows={answer.places.map((place) => ({
            key: place.joint,
            name: view.rows.find((r) => r.key === place.joint)?.number,
            told: [
              `right ${pick(place.right)}`,
              `forward ${pick(place.forward)}`,
              `± ${pick(place.unsure)}`,
            ],
          }))}
          take={() => void take()}
          busy={busy}
          words="Take these as seen"
        />
      )}
      <Trouble words={trouble} />
    </section>
  );
}
