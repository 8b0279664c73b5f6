import { Button } from "../../parts/Button";

type Props = {
  legend: string;
  mounts: Record<string, string>;
  chosen: readonly string[];
  choose: (mounts: readonly string[]) => void;
};

/** The bike's mounts to tick, one by one or all at once. */
export function MountTicks({ legend, mounts, chosen, choose }: Props) {
  const all = Object.keys(mounts);
  const toggle = (key: string) =>
    choose(chosen.includes(key) ? chosen.filter((m) => m !== key) : [...chosen, key]);
  return (
    <fieldset className="mt-3">
      <legend className="label">{legend}</legend>
      <Button tone="quiet" onClick={() => choose(all.length === chosen.length ? [] : all)}>
        {all.length === chosen.length ? "None of them" : `All ${all.length} of them`}
      </Button>
      <div className="grid gap-x-4 sm:grid-cols-2">
        {Object.entries(mounts).map(([key, words]) => (
          <label key={key} className="flex min-h-11 cursor-pointer items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-act"
              checked={chosen.includes(key)}
              onChange={() => toggle(key)}
              data-mount={key}
            />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
