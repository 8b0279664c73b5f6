import { useEffect, useState } from "react";
import { deviceName, nameDevice } from "../../api/device";
import { wordsFor } from "../../api/errors";
import { usePhoneActs, usePhones } from "../../api/phones";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";

type Phones = Schemas["PhonesView"];
const SUMMARY = "min-h-11 cursor-pointer py-2 text-act underline underline-offset-4";
const moment = (at: string) => new Date(at).toTimeString().slice(0, 5);

/** Phones under the bike: a code to let one in, who is in, and their end at a tap. */
export function PhonePanel() {
  const phones = usePhones();
  const { code, end } = usePhoneActs();
  if (!phones.data) return null;
  const view = phones.data;
  const trouble = code.error ?? end.error;
  if (view.addresses.length === 0) {
    return (
      <details className="mb-3">
        <summary className={SUMMARY}>Phones, and who works here</summary>
        <p>
          Phones are kept out. To let one in, stop the program and start it with{" "}
          <code>shield serve --lan</code>.
        </p>
        <ThisDevice />
      </details>
    );
  }
  return (
    <section aria-label="Phones" className="mb-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-lg">
          {view.devices.length === 0
            ? "No phone is let in"
            : `Phones let in: ${view.devices.length}`}
        </h2>
        <Button busy={code.isPending} onClick={() => code.mutate()}>
          Let a phone in
        </Button>
      </div>
      {view.code && <Code code={view.code} secret={view.is_encrypted} />}
      {view.wrong_tries.length > 0 && (
        <p role="status" className="my-1">
          Wrong codes were tried: {view.wrong_tries.join(", ")}. The code stands; whoever guesses
          waits.
        </p>
      )}
      <ul>
        {view.devices.map((device) => (
          <li
            key={device.id}
            data-device={device.id}
            className="flex items-center gap-3 border-b border-rule py-1"
          >
            <span className="flex-1">
              {device.name}
              <span className="text-quiet">
                {" "}
                · last seen {moment(device.seen)} · until {moment(device.until)}
              </span>
            </span>
            <Button busy={end.isPending} onClick={() => end.mutate(device.id)}>
              End
            </Button>
          </li>
        ))}
      </ul>
      <details>
        <summary className={SUMMARY}>Who works at this computer</summary>
        <ThisDevice />
      </details>
      <Trouble words={trouble ? wordsFor(trouble) : ""} />
    </section>
  );
}

/** A name, typed once, that stands beside what is told from this computer. */
function ThisDevice() {
  const [name, setName] = useState(deviceName);
  const change = (text: string) => {
    setName(text);
    nameDevice(text);
  };
  return (
    <div className="w-60">
      <Entry label="name beside what is told from here" value={name} onChange={change} />
    </div>
  );
}

function Code({ code, secret }: { code: NonNullable<Phones["code"]>; secret: boolean }) {
  const [left, setLeft] = useState("");
  useEffect(() => {
    const tick = () => {
      const seconds = Math.ceil((Date.parse(code.until) - Date.now()) / 1000);
      setLeft(seconds > 0 ? `good for ${seconds} s` : "over: ask for a new one");
    };
    tick();
    const timer = setInterval(tick, 1000);
    return () => clearInterval(timer);
  }, [code.until]);
  const size = code.squares.length;
  return (
    <div className="my-2 flex flex-wrap items-center gap-5 border border-ink bg-sheet p-3">
      <svg
        role="img"
        aria-label={`Picture code of ${code.address}`}
        viewBox={`0 0 ${size} ${size}`}
        className="size-44 shrink-0 bg-white"
        shapeRendering="crispEdges"
      >
        <path d={squares(code.squares)} className="fill-black" />
      </svg>
      <div className="min-w-0">
        <p className="label">on the phone, in the same network, open</p>
        <p className="text-lg break-all">{code.address.split("#")[0]}</p>
        <p className="label mt-2">and type</p>
        <p className="num text-6xl leading-none" data-testid="pair-code">
          {code.digits.slice(0, 3)} {code.digits.slice(3)}
        </p>
        <p className="mt-1">
          {left}
          {!secret && " · the way is not encrypted: only in a network that you trust"}
        </p>
      </div>
    </div>
  );
}

const squares = (rows: readonly string[]) =>
  rows
    .flatMap((row, y) => [...row].map((square, x) => (square === "1" ? `M${x} ${y}h1v1h-1z` : "")))
    .join("");
