import { useState } from "react";
import { wordsFor } from "../../api/errors";
import { useJobId } from "../../api/job";
import { readPhotoMounts, takePhotoMounts, usePhotoSheets } from "../../api/survey";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Folded } from "../../parts/Folded";
import { CORNER_WORDS, SheetPhoto, useSheetPhoto } from "../../parts/SheetPhoto";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

type Sheets = Schemas["PhotoSheets"];

/** The bike's mounts from a photograph of its underside, one of them known. */
export function PhotoMounts() {
  const sheets = usePhotoSheets();
  return (
    <Folded title="Place the mounts from a photograph of the underside">
      {sheets.data && <Reader sheets={sheets.data} />}
    </Folded>
  );
}

function Reader({ sheets }: { sheets: Sheets }) {
  const job = useJobId();
  const photo = useSheetPhoto(sheets.sheets);
  const keys = Object.keys(sheets.mounts);
  const [known, setKnown] = useState(keys[0] ?? "");
  const [answer, setAnswer] = useState<Schemas["PhotoMountsView"] | null>(null);
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const { points, setPoints } = photo;
  if (keys.length < 2)
    return <p>Enter the mounts first: one whose place is measured, and the others roughly.</p>;
  const order = [known, ...keys.filter((key) => key !== known)];
  const wanted = [
    ...CORNER_WORDS,
    ...order.map((key, i) => `mount ${sheets.mounts[key]}${i === 0 ? ", the known one" : ""}`),
  ];
  const asked = () => ({
    ...photo.asked(),
    known: { mount: known, at: points[4] ?? ([0, 0] as [number, number]) },
    mounts: order.slice(1).flatMap((mount, i) => {
      const at = points[5 + i];
      return at ? [{ mount, at }] : [];
    }),
  });
  const read = async () => {
    photo.setRefused("");
    try {
      setAnswer(await readPhotoMounts(job, asked()));
    } catch (error) {
      setAnswer(null);
      photo.setRefused(wordsFor(error));
    }
  };
  const take = async () => {
    if (await act(takePhotoMounts(asked()))) setAnswer(null);
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
          setPoints(points.slice(0, 4));
        }}
      />
      <SheetPhoto
        photo={photo}
        intro="Hold a sheet of paper level against the underside, in the plane of the mounts, its top edge to the front. Take the picture square to it, from straight below."
        next={
          points.length < wanted.length
            ? `Tap ${wanted[points.length]}.`
            : "All tapped. Arrow keys still nudge the last one."
        }
        most={wanted.length}
        opened={() => setAnswer(null)}
        testId="mounts-photo"
      >
        <Button disabled={points.length === 0} onClick={() => setPoints(points.slice(0, -1))}>
          Take the last tap back
        </Button>
        {points.length >= 5 && points.length < wanted.length && (
          <Button onClick={() => setPoints([...points, null])}>
            This mount is not in the picture
          </Button>
        )}
        <Button tone="main" disabled={points.length < 6} onClick={() => void read()}>
          Read millimetres
        </Button>
      </SheetPhoto>
      {answer && (
        <>
          <table className="mt-2 w-full" aria-label="Mounts read from the photograph">
            <tbody>
              {answer.places.map((place) => (
                <tr key={place.mount} className="border-t border-rule">
                  <th scope="row" className="text-left">
                    {sheets.mounts[place.mount]}
                  </th>
                  <td>x {pick(place.x)}</td>
                  <td>y {pick(place.y)}</td>
                  <td>± {pick(place.unsure)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button tone="main" className="mt-2" busy={busy} onClick={() => void take()}>
            Move the mounts there
          </Button>
        </>
      )}
      <Trouble words={trouble} />
    </>
  );
}
