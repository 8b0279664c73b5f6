import { type PointerEvent, useEffect, useRef, useState } from "react";
import { wordsFor } from "../../api/errors";
import { checkSheetUrl, readPhoto, takePhoto } from "../../api/fitup";
import { useJobId } from "../../api/job";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { FilePick } from "../../parts/FilePick";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

type Props = { view: Schemas["HolesView"]; close: () => void };
type Point = [number, number];
/** null: this hole is not in the picture. */
type Tap = Point | null;
type Answer = Schemas["PhotoView"];

const CORNERS = ["top left", "top right", "bottom right", "bottom left"] as const;
const LENS_PX = 110;
const LENS_TIMES = 3;
const STEPS: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A photograph beside a sheet of paper: four corners, then at each hole its middle and thread. */
export function PhotoReader({ view, close }: Props) {
  const job = useJobId();
  const [picture, setPicture] = useState<ImageBitmap | null>(null);
  const [sheet, setSheet] = useState(view.sheets[0] ?? "");
  const [from, setFrom] = useState<"below" | "above">("below");
  const [points, setPoints] = useState<Tap[]>([]);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [refused, setRefused] = useState("");
  const [perPixel, setPerPixel] = useState(1);
  const { act, trouble, busy } = useAct();
  const pick = usePick();

  const wanted = [
    ...CORNERS.map((c) => `the sheet's ${c} corner, as it lies with its top to the front`),
    ...view.rows.flatMap((r) => [
      `hole ${r.number}: the middle of the hole`,
      `hole ${r.number}: the middle of the thread behind it`,
    ]),
  ];
  const open = async (file: File) => {
    setRefused("");
    try {
      setPicture(await createImageBitmap(file));
      setPoints([]);
      setAnswer(null);
    } catch {
      setRefused("This file cannot be opened as a picture: take a JPEG or PNG.");
    }
  };
  const asked = () => ({
    sheet,
    corners: points.slice(0, 4).filter((p) => p !== null),
    pairs: view.rows.flatMap((row, i) => {
      const hole = points[4 + 2 * i];
      const thread = points[5 + 2 * i];
      return hole && thread ? [{ joint: row.key, hole, thread }] : [];
    }),
    seen_from: from,
    // A finger is as good as a pixel of the screen: what that is in the picture depends on its size.
    click_u_px: Math.max(1, perPixel),
  });
  const read = async () => {
    setRefused("");
    try {
      setAnswer(await readPhoto(job, asked()));
    } catch (error) {
      setAnswer(null);
      setRefused(wordsFor(error));
    }
  };
  const take = async () => {
    const saved = await act(takePhoto(asked()));
    if (saved) close();
  };
  return (
    <section aria-label="From a photograph" className="my-2 border border-ink bg-sheet p-3">
      <p>
        Lay a sheet of paper flat beside the holes, in their plane, its top edge to the front. Take
        the picture square to it, as near as shows sheet and holes. It stays on this device.{" "}
        <a
          className="text-act underline"
          href={checkSheetUrl(job, "a4")}
          target="_blank"
          rel="noreferrer"
        >
          Print the check sheet on A4
        </a>{" "}
        or{" "}
        <a
          className="text-act underline"
          href={checkSheetUrl(job, "letter")}
          target="_blank"
          rel="noreferrer"
        >
          on Letter
        </a>
        .
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Choice label="sheet" value={sheet} options={view.sheets} onChange={setSheet} />
        <Choice
          label="seen from"
          value={from}
          options={["below", "above"]}
          onChange={(value) => setFrom(value === "above" ? "above" : "below")}
        />
      </div>
      <p className="mt-2 flex flex-wrap gap-2">
        <FilePick
          words={picture ? "Another photograph" : "Choose a photograph"}
          accept="image/jpeg,image/png"
          pick={(file) => void open(file)}
          testId="hole-photo"
        />
      </p>
      {picture && (
        <>
          <p role="status" className="mt-2 font-semibold" data-testid="next-tap">
            {points.length < wanted.length
              ? `Tap ${wanted[points.length]}.`
              : "All tapped. Arrow keys still nudge the last one."}
          </p>
          <Taps
            picture={picture}
            points={points}
            set={(taps, shown) => {
              setPoints(taps);
              setPerPixel(picture.width / Math.max(shown, 1));
            }}
            most={wanted.length}
          />
          <p className="mt-2 flex flex-wrap gap-2">
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
          </p>
        </>
      )}
      {refused && <Trouble words={refused} />}
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

type TapsProps = {
  picture: ImageBitmap;
  points: readonly Tap[];
  /** The taps, and how many pixels of the screen the picture is wide. */
  set: (points: Tap[], shown: number) => void;
  most: number;
};

/** The picture with its taps; under the finger a lens, and arrow keys for the last pixel. */
function Taps({ picture, points, set, most }: TapsProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [over, setOver] = useState<Point | null>(null);
  useEffect(() => draw(canvas.current, picture, points, over), [picture, points, over]);
  const at = (event: PointerEvent<HTMLCanvasElement>): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return [
      ((event.clientX - box.left) / box.width) * picture.width,
      ((event.clientY - box.top) / box.height) * picture.height,
    ];
  };
  const nudge = (key: string, shown: number) => {
    const step = STEPS[key];
    const last = points.at(-1);
    if (!step || !last) return false;
    set([...points.slice(0, -1), [last[0] + step[0], last[1] + step[1]]], shown);
    return true;
  };
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      width={picture.width}
      height={picture.height}
      role="img"
      aria-label={`Photograph with ${points.length} of ${most} taps; arrow keys move the last one by a pixel`}
      className="mt-1 w-full touch-none border border-ink"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setOver(at(event));
      }}
      onPointerMove={(event) => over && setOver(at(event))}
      onPointerUp={(event) => {
        if (points.length < most) set([...points, at(event)], event.currentTarget.clientWidth);
        setOver(null);
        event.currentTarget.focus();
      }}
      onKeyDown={(event) =>
        nudge(event.key, event.currentTarget.clientWidth) && event.preventDefault()
      }
    />
  );
}

function draw(
  canvas: HTMLCanvasElement | null,
  picture: ImageBitmap,
  points: readonly Tap[],
  over: Point | null,
) {
  const pen = canvas?.getContext("2d");
  if (!canvas || !pen) return;
  const ink = getComputedStyle(canvas).getPropertyValue("--color-act") || "black";
  const unit = picture.width / Math.max(canvas.clientWidth, 1);
  pen.drawImage(picture, 0, 0);
  pen.lineWidth = 2 * unit;
  pen.strokeStyle = ink;
  pen.fillStyle = ink;
  pen.font = `${14 * unit}px sans-serif`;
  points.forEach((point, i) => {
    if (!point) return;
    const [x, y] = point;
    pen.beginPath();
    pen.arc(x, y, 7 * unit, 0, 2 * Math.PI);
    pen.moveTo(x - 11 * unit, y);
    pen.lineTo(x + 11 * unit, y);
    pen.moveTo(x, y - 11 * unit);
    pen.lineTo(x, y + 11 * unit);
    pen.stroke();
    pen.fillText(String(i + 1), x + 10 * unit, y - 10 * unit);
  });
  if (!over) return;
  const size = LENS_PX * unit;
  const part = size / LENS_TIMES;
  const left = over[0] > picture.width / 2 ? 0 : picture.width - size;
  pen.drawImage(picture, over[0] - part / 2, over[1] - part / 2, part, part, left, 0, size, size);
  pen.strokeRect(left, 0, size, size);
  pen.beginPath();
  pen.moveTo(left + size / 2, 0);
  pen.lineTo(left + size / 2, size);
  pen.moveTo(left, size / 2);
  pen.lineTo(left + size, size / 2);
  pen.lineWidth = unit;
  pen.stroke();
}
