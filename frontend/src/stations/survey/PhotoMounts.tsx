import { useState } from "react";
import { useJobId } from "../../api/job";
import { readPhotoMounts, takePhotoMounts, usePhotoSheets } from "../../api/survey";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Folded } from "../../parts/Folded";
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

type Sheets = Schemas["PhotoSheets"];

/** The bike's mounts from a photograph of its underside, one of them known. */
export function PhotoMounts() {
  const sheets = usePhotoSheets();
  return (
    <Folded title="Place the mounts from a photograph of the underside">
      {sheets.data && Object.keys(sheets.data.mounts).length < 2 && (
        <p>Enter the mounts first: one whose place is measured, and the others roughly.</p>
      )}
      {sheets.data && Object.keys(sheets.data.mounts).length > 1 && <Reader sheets={sheets.data} />}
    </Folded>
  );
}

function Reader({ sheets }: { sheets: Sheets }) {
  const job = useJobId();
  const photo = useSheetPhoto(sheets.sheets);
  const keys = Object.keys(sheets.mounts);
  const [known, setKnown] = useState(keys[0] ?? "");
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const { points, setPoints } = photo;
  const order = [known, ...keys.filter((key) => key !== known)];
  const wanted = [
    ...SHEET_WORDS,
    ...order.map((key, i) => `mount ${sheets.mounts[key]}${i === 0 ? ", the known one" : ""}`),
  ];
  const asked = () => ({
    ...photo.asked(),
    known: { mount: known, at: points[SHEET_WORDS.length] ?? ([0, 0] as [number, number]) },
    mounts: order.slice(1).flatMap((mount, i) => {
      const at = points[SHEET_WORDS.length + 1 + i];
      return at ? [{ mount, at }] : [];
    }),
  });
  const { answer, read, forget } = useReading(photo, () => readPhotoMounts(job, asked()));
  const take = async () => {
    if (await act(takePhotoMounts(asked()))) forget();
  };
  return (
    <>
      <Choice
        label="the mount whose place is known"
        value={known}
        options={keys}
        names={sheets.mounts}
        onChange={(key) => {
          setKnown(key);
          setPoints(points.slice(0, SHEET_WORDS.length));
        }}
      />
      <SheetPhoto
        photo={photo}
        intro="Hold a sheet of paper level against the underside, in the plane of the mounts, its top edge to the front. Take the picture square to it, from straight below."
        next={nextOf(wanted, points)}
        most={wanted.length}
        opened={forget}
        testId="mounts-photo"
      >
        <TapActs photo={photo} read={read} least={SHEET_WORDS.length + 2}>
          {points.length > SHEET_WORDS.length && points.length < wanted.length && (
            <Button onClick={() => setPoints([...points, null])}>
              This mount is not in the picture
            </Button>
          )}
        </TapActs>
      </SheetPhoto>
      {answer && (
        <ReadPlaces
          label="Mounts read from the photograph"
          rows={answer.places.map((place) => ({
            key: place.mount,
            name: sheets.mounts[place.mount],
            told: [`x ${pick(place.x)}`, `y ${pick(place.y)}`, `± ${pick(place.unsure)}`],
          }))}
          take={() => void take()}
          busy={busy}
          words="Move the mounts there"
        />
      )}
      <Trouble words={trouble} />
    </>
  );
}
