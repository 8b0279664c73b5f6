import { useState } from "react";
import { useJobId } from "../../api/job";
import { readPhotoOutline, takePhotoOutline, usePhotoSheets } from "../../api/survey";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Folded } from "../../parts/Folded";
import {
  oneLess,
  type Point,
  SHEET_WORDS,
  SheetPhoto,
  TapActs,
  useReading,
  useSheetPhoto,
} from "../../parts/SheetPhoto";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

const MOST_TAPS = 260;
const BECOMES = ["belly", "piece"] as const;

/** The outline of a flat plate that lies beside a sheet of paper, tapped in a photograph. */
export function PhotoOutline({ plateKey }: { plateKey: string }) {
  const sheets = usePhotoSheets();
  return (
    <Folded title="Take the outline from a photograph beside a sheet of paper">
      {sheets.data && <Reader plateKey={plateKey} sheets={sheets.data.sheets} />}
    </Folded>
  );
}

function Reader({ plateKey, sheets }: { plateKey: string; sheets: readonly string[] }) {
  const job = useJobId();
  const photo = useSheetPhoto(sheets);
  /** How many taps the plate's corners take; none: still tapping them. */
  const [round, setRound] = useState<number | null>(null);
  const [becomes, setBecomes] = useState<(typeof BECOMES)[number]>("belly");
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const { points } = photo;
  const plate = points.slice(SHEET_WORDS.length).filter((p): p is Point => p !== null);
  const rest = round === null ? [] : plate.slice(round);
  const asked = () => ({
    ...photo.asked(),
    outline: plate.slice(0, round ?? undefined),
    holes: rest.flatMap((middle, i) => {
      const rim = rest[i + 1];
      return i % 2 === 0 && rim ? [{ middle, rim }] : [];
    }),
  });
  const { answer, read, forget } = useReading(photo, () => readPhotoOutline(job, asked()));
  const take = async () => {
    if (await act(takePhotoOutline(plateKey, { asked: asked(), becomes }))) forget();
  };
  const back = () => {
    if (round !== null && plate.length <= round) setRound(null);
    photo.setPoints(oneLess(points));
  };
  return (
    <>
      <SheetPhoto
        photo={photo}
        intro="Lay the plate flat with its outer face up, as seen from below, and a sheet of paper beside it, both with the front at the top. Take the picture square to them."
        next={nextWords(points.length, round)}
        most={MOST_TAPS}
        opened={() => {
          forget();
          setRound(null);
        }}
        testId="outline-photo"
      >
        <TapActs photo={photo} back={back} read={read} least={SHEET_WORDS.length + 3}>
          {round === null && (
            <Button disabled={plate.length < 3} onClick={() => setRound(plate.length)}>
              The outline is round: now the holes
            </Button>
          )}
        </TapActs>
      </SheetPhoto>
      {answer && (
        <div className="mt-2">
          <Drawing drawing={answer.drawing} className="max-h-80 w-full" />
          <dl className="grid grid-cols-[auto_1fr] gap-x-3">
            {answer.figures.map((figure) => (
              <div key={figure.key} className="contents">
                <dt className="text-quiet">{figure.label}</dt>
                <dd className="num">{pick(figure)}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-2 flex flex-wrap items-end gap-3">
            <Choice
              label="it becomes"
              value={becomes}
              options={BECOMES}
              names={{ belly: "the belly", piece: "a further piece" }}
              onChange={(b) => setBecomes(b as typeof becomes)}
            />
            <Button tone="main" busy={busy} onClick={() => void take()}>
              Take this outline
            </Button>
          </div>
        </div>
      )}
      <Trouble words={trouble} />
    </>
  );
}

function nextWords(all: number, round: number | null): string {
  const taps = all - SHEET_WORDS.length;
  if (taps < 0) return `Tap ${SHEET_WORDS[all]}.`;
  if (round === null) return `Tap the plate's corners in turn, all the way round: ${taps} so far.`;
  const hole = Math.floor((taps - round) / 2) + 1;
  return (taps - round) % 2 === 0
    ? `Tap the middle of hole ${hole}, or read.`
    : `Tap the rim of hole ${hole}.`;
}
