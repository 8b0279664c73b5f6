import { useJobId } from "../../api/job";
import { useStrip } from "../../api/survey";
import { Cautions } from "../../parts/Cautions";
import { SwitchField } from "../../parts/Field";
import { ItemList } from "../../parts/ItemList";
import { Failed, Waiting } from "../../parts/States";
import { ItemPhoto } from "./ItemPhoto";

const LINK = "inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act";

/** Taking the stock plate off with a list: what to undo, what is kept, what was found. */
export function StripSheet() {
  const strip = useStrip();
  const job = useJobId();
  if (strip.isPending) return <Waiting what="the strip list" />;
  if (strip.isError) return <Failed error={strip.error} retry={() => void strip.refetch()} />;
  const view = strip.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-xl">Take the {view.plate} off with a list</h2>
        <a
          className={LINK}
          href={`/api/jobs/${job}/strip/labels.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Labels for the stock bag ({view.to_bag})
        </a>
        {view.photos.length > 0 && (
          <a className={LINK} href={`/api/jobs/${job}/photos/all.zip`} download="job-photos.zip">
            Save the photos
          </a>
        )}
      </div>
      <Cautions texts={view.cautions} />
      <p className="text-quiet">
        {view.done} of {view.items.length} off. Note which screws hold the plate and which only hold
        its own pieces together; hidden ones are found before the last one is out. Support the bike
        so that it cannot fall.
      </p>
      <ItemList
        title="To undo"
        items={view.items}
        where="strip"
        add="Add to the list"
        empty="Nothing on the list yet. Add each screw, hose and clip as you find it."
        beside={(item) => {
          const undone = item.fields.find((f) => f.name === "undone");
          return undone && <SwitchField field={undone} />;
        }}
        extra={(item) => (
          <ItemPhoto where="strip" item={item} photo={view.photo_of[item.key] ?? ""} />
        )}
      />
    </div>
  );
}
