import { type ComponentType, useEffect, useState } from "react";
import { Failed, Waiting } from "./States";

/** Code of a screen: how it is fetched, and the screen once it was. */
export type Code = { load: () => Promise<ComponentType>; screen?: ComponentType };

/**
 * A screen whose code is fetched when it is first asked for, and shown as soon as it is there.
 *
 * Suspense would hold what comes after a fallback back for 300 ms, twice on the way to a sheet.
 */
export function Late({ code }: { code: Code }) {
  const [tries, setTries] = useState(0);
  const [ended, setEnded] = useState<{ of: Code; error?: unknown }>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further try is what asks again
  useEffect(() => {
    if (code.screen) return;
    let gone = false;
    const tell = (error?: unknown) => {
      if (!gone) setEnded({ of: code, error });
    };
    code.load().then((screen) => {
      code.screen = screen;
      tell();
    }, tell);
    return () => {
      gone = true;
    };
  }, [code, tries]);

  const Screen = code.screen;
  if (Screen) return <Screen />;
  if (ended?.of !== code) return <Waiting what="the screen" />;
  const again = () => {
    setEnded(undefined);
    setTries(tries + 1);
  };
  return <Failed error={ended.error} retry={again} />;
}
