import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Navigate, useLocation, useNavigate } from "react-router";
import { deviceName, nameDevice } from "../api/device";
import { wordsFor } from "../api/errors";
import { isNow, pairPhone, useWho } from "../api/phones";
import { waitingInAll, waitWords } from "../api/waiting";
import { Button } from "../parts/Button";
import { Entry } from "../parts/Entry";
import { Waiting } from "../parts/States";
import { Trouble } from "../parts/Trouble";
import { useTitle } from "../parts/useTitle";
import { VerdictMark } from "../parts/Verdict";

/** A phone asks to be let in: the six figures that the computer shows, and whose phone it is. */
export function Pair() {
  const who = useWho();
  useTitle("Let this phone in");
  const navigate = useNavigate();
  const { hash } = useLocation();
  const [code, setCode] = useState(/^#\d{6}$/.test(hash) ? hash.slice(1) : "");
  const [name, setName] = useState(deviceName);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const queries = useQueryClient();
  const waits = waitingInAll();
  if (who.isLoading) return <Waiting what="who you are" />;
  if (who.data?.job) return <Navigate to={`/jobs/${who.data.job}/garage`} replace />;
  const send = async () => {
    setBusy(true);
    setTrouble("");
    try {
      const let_in = await pairPhone({ code, name });
      nameDevice(name);
      isNow(queries, let_in);
      void navigate(`/jobs/${let_in.job}/garage`, { replace: true });
    } catch (error) {
      setTrouble(wordsFor(error).replace("Not saved: the", "The"));
    } finally {
      setBusy(false);
    }
  };
  return (
    <main className="mx-auto grid max-w-md gap-4 p-5 text-lg">
      <p className="stamp text-act">Rugged Shield</p>
      <h1 className="text-4xl leading-none">Let this phone in</h1>
      {waits > 0 && (
        <p role="status" className="border-l-[6px] border-mind bg-sheet py-1.5 pl-3">
          <VerdictMark verdict="mind" /> {waitWords(waits)} on this phone, to be sent as soon as it
          is let in for the same job.
        </p>
      )}
      <ol className="list-decimal pl-6">
        <li>On the computer open Tighten, then “Let a phone in”.</li>
        <li>Type the six figures here. They are good for two minutes.</li>
      </ol>
      <div className="[&_input]:num [&_input]:min-h-16 [&_input]:text-4xl">
        <Entry label="six figures" value={code} onChange={setCode} numeric />
      </div>
      <div className="[&_input]:min-h-14">
        <Entry label="whose phone" value={name} onChange={setName} />
      </div>
      <Button
        tone="main"
        className="min-h-16! text-2xl"
        busy={busy}
        disabled={code.trim().length < 6 || name.trim() === ""}
        onClick={() => void send()}
      >
        Let in
      </Button>
      <Trouble words={trouble} />
      <p className="text-quiet">
        This phone then sees and ticks the steps of one job, for twelve hours or until it is ended
        on the computer. Nothing else is shown to it.
      </p>
    </main>
  );
}
