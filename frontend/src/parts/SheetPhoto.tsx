import { type PointerEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { wordsFor } from "../api/errors";
import { checkSheetUrl } from "../api/fitup";
import { useJobId } from "../api/job";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { FilePick } from "./FilePick";
import { Trouble } from "./Trouble";

export type Point = [number, number];
/** null: this place is not in the picture. */
export type Tap = Point | null;

const CORNERS = ["top left", "top right", "bottom right", "bottom left"] as const;
/** What to tap first: the corners of the sheet, in turn. */
const CORNER_WORDS = CORNERS.map(
  (c) => `the sheet's ${c} corner, as it lies with its top to the front`,
);
const SIDES = ["top", "right", "bottom", "left"] as const;
/** Then its edges: where a lens bends lines, the middle of each shows it. */
const EDGE_WORDS = SIDES.map((side) => `the ${side} edge of the sheet, about its middle`);
/** What every photograph begins with. */
export const SHEET_WORDS = [...CORNER_WORDS, ...EDGE_WORDS];
const LENS_PX = 110;
const LENS_TIMES = 3;
const STEPS: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A photograph with a sheet in it, and what was tapped there; it stays on this device. */
export function useSheetPhoto(sheets: readonly string[]) {
  const [picture, setPicture] = useState<ImageBitmap | null>(null);
  const [sheet, setSheet] = useState(sheets[0] ?? "");
  const [from, setFrom] = useState<"below" | "above">("below");
  const [points, setPoints] = useState<Tap[]>([]);
  const [refused, setRefused] = useState("");
  const [perPixel, setPerPixel] = useState(1);
  const open = async (file: File, opened: () => void) => {
    setRefused("");
    try {
      setPicture(await createImageBitmap(file));
      setPoints([]);
      opened();
    } catch {
      setRefused("This file cannot be opened as a picture: take a JPEG or PNG.");
    }
  };
  return {
    sheets,
    picture,
    sheet,
    setSheet,
    from,
    setFrom,
    points,
    setPoints,
    refused,
    setRefused,
    setPerPixel,
    open,
    /** What every question of a photograph begins with. */
    asked: () => ({
      sheet,
      corners: points.slice(0, 4).filter((p) => p !== null),
      edges: points.slice(4, SHEET_WORDS.length).filter((p) => p !== null),
      picture: [picture?.width ?? 0, picture?.height ?? 0] as Point,
      seen_from: from,
      // A finger is as good as a pixel of the screen: what that is in the picture depends on its size.
      click_u_px: Math.max(1, perPixel),
    }),
  };
}

type Photo = ReturnType<typeof useSheetPhoto>;

/** What the server makes of the taps, or why it refuses them. */
export function useReading<Answer>(photo: Photo, ask: () => Promise<Answer>) {
  const [answer, setAnswer] = useState<Answer | null>(null);
  const read = async () => {
    photo.setRefused("");
    try {
      setAnswer(await ask());
    } catch (error) {
      setAnswer(null);
      photo.setRefused(wordsFor(error));
    }
  };
  return { answer, read, forget: () => setAnswer(null) };
}

/** What to tap of a list of places that are wanted in turn. */
export const nextOf = (wanted: readonly string[], points: readonly Tap[]) =>
  points.length < wanted.length
    ? `Tap ${wanted[points.length]}.`
    : "All tapped. Arrow keys still nudge the last one.";

/** One tap less; edges that were left out go back together. */
export const oneLess = (points: readonly Tap[]) =>
  points.length === SHEET_WORDS.length && points.at(-1) === null
    ? points.slice(0, CORNERS.length)
    : points.slice(0, -1);

type ActsProps = {
  photo: Photo;
  back?: () => void;
  read: () => Promise<void>;
  /** How many taps a reading needs. */
  least: number;
  children?: ReactNode;
};

/** Under the picture: a tap back, what is special here, and the reading. */
export function TapActs({ photo, back, read, least, children }: ActsProps) {
  const { points, setPoints } = photo;
  return (
    <>
      <Button disabled={points.length === 0} onClick={back ?? (() => setPoints(oneLess(points)))}>
        Take the last tap back
      </Button>
      {points.length === CORNERS.length && (
        <Button onClick={() => setPoints([...points, ...EDGE_WORDS.map(() => null)])}>
          Go on without the edges
        </Button>
      )}
      {points.length >= SHEET_WORDS.length && children}
      <Button tone="main" disabled={points.length < least} onClick={() => void read()}>
        Read millimetres
      </Button>
    </>
  );
}

/** Places as they were read, and the one button that takes them. */
export function ReadPlaces(props: {
  label: string;
  rows: readonly { key: string; name: ReactNode; told: readonly string[] }[];
  take: () => void;
  busy: boolean;
  words: string;
}) {
  return (
    <>
      <table className="mt-2 w-full" aria-label={props.label}>
        <tbody>
          {props.rows.map((row) => (
            <tr key={row.key} className="border-t border-rule">
              <th scope="row" className="num text-left">
                {row.name}
              </th>
              {row.told.map((words) => (
                <td key={words}>{words}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Button tone="main" className="mt-2" busy={props.busy} onClick={props.take}>
        {props.words}
      </Button>
    </>
  );
}

type SheetPhotoProps = {
  photo: Photo;
  intro: string;
  /** What is tapped next, or that all is. */
  next: string;
  most: number;
  opened: () => void;
  testId: string;
  children: ReactNode;
};

/** The photograph: which sheet lies in it, what to tap next, and the picture to tap. */
export function SheetPhoto(props: SheetPhotoProps) {
  const { photo, intro, next, most, opened, testId, children } = props;
  const job = useJobId();
  const link = (paper: "a4" | "letter", words: string) => (
    <a
      className="inline-flex min-h-11 items-center text-act underline"
      href={checkSheetUrl(job, paper)}
      target="_blank"
      rel="noreferrer"
    >
      {words}
    </a>
  );
  return (
    <>
      <p>
        {intro} It stays on this device. {link("a4", "Print the check sheet on A4")} or{" "}
        {link("letter", "on Letter")}.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Choice
          label="sheet"
          value={photo.sheet}
          options={photo.sheets}
          onChange={photo.setSheet}
        />
        <Choice
          label="seen from"
          value={photo.from}
          options={["below", "above"]}
          onChange={(value) => photo.setFrom(value === "above" ? "above" : "below")}
        />
      </div>
      <p className="mt-2 flex flex-wrap gap-2">
        <FilePick
          words={photo.picture ? "Another photograph" : "Choose a photograph"}
          accept="image/jpeg,image/png"
          pick={(file) => void photo.open(file, opened)}
          testId={testId}
        />
      </p>
      {photo.picture && (
        <>
          <p role="status" className="mt-2 font-semibold" data-testid="next-tap">
            {next}
          </p>
          <Taps
            picture={photo.picture}
            points={photo.points}
            set={(taps, shown) => {
              photo.setPoints(taps);
              photo.setPerPixel((photo.picture?.width ?? 1) / Math.max(shown, 1));
            }}
            most={most}
          />
          <div className="mt-2 flex flex-wrap gap-2">{children}</div>
        </>
      )}
      {photo.refused && <Trouble words={photo.refused} />}
    </>
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
  const style = getComputedStyle(canvas);
  const ink = style.getPropertyValue("--color-act") || "black";
  const paper = style.getPropertyValue("--color-paper") || "white";
  const unit = picture.width / Math.max(canvas.clientWidth, 1);
  pen.drawImage(picture, 0, 0);
  pen.font = `${14 * unit}px sans-serif`;
  // Twice: on a dark picture the ink alone would not be seen.
  for (const [colour, wide] of [
    [paper, 5],
    [ink, 2],
  ] as const) {
    pen.lineWidth = wide * unit;
    pen.strokeStyle = colour;
    pen.fillStyle = colour;
    points.forEach((point, i) => {
      if (point) cross(pen, point, String(i + 1), unit, colour === paper);
    });
  }
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

/** A tap: a ring with a cross through it, and its number; `around`: the ground under both. */
function cross(
  pen: CanvasRenderingContext2D,
  [x, y]: Point,
  words: string,
  unit: number,
  around: boolean,
) {
  pen.beginPath();
  pen.arc(x, y, 7 * unit, 0, 2 * Math.PI);
  pen.moveTo(x - 11 * unit, y);
  pen.lineTo(x + 11 * unit, y);
  pen.moveTo(x, y - 11 * unit);
  pen.lineTo(x, y + 11 * unit);
  pen.stroke();
  if (around) pen.strokeText(words, x + 10 * unit, y - 10 * unit);
  else pen.fillText(words, x + 10 * unit, y - 10 * unit);
}
