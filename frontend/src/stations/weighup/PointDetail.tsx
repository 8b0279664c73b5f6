import type { Place, StrikeAsked } from "../../api/types";
import { useStrikePoint } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Failed, Waiting } from "../../parts/States";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

type Props = { asked: StrikeAsked; place: Place; close: () => void };

/** One struck place: numbers, force over deflection, what every mount takes beside its limit. */
export function PointDetail({ asked, place, close }: Props) {
  const point = useStrikePoint(asked, place);
  if (point.isPending) return <Waiting what="the place" />;
  if (point.isError) return <Failed error={point.error} retry={() => void point.refetch()} />;
  const view = point.data;
  return (
    <section
      aria-label="The place tapped"
      className="border border-ink bg-sheet p-2"
      aria-busy={point.isPlaceholderData}
    >
      <div className="flex items-start gap-2">
        <h2 className="flex-1 text-lg leading-tight">A blow {view.where}</h2>
        <Button onClick={close}>Back to the map</Button>
      </div>
      <dl className="grid grid-cols-2 gap-x-4">
        {view.figures.map((figure) => (
          <div key={figure.key} className="flex items-baseline gap-2 border-b border-rule">
            <dt className="flex-1 text-sm leading-tight">{figure.label}</dt>
            <dd>
              <Why figure={figure} />
            </dd>
          </div>
        ))}
      </dl>
      {view.findings.map((f) => (
        <p key={f.text} className="mt-1 flex gap-2 text-sm">
          <VerdictMark verdict={f.verdict} quiet /> {f.text}
        </p>
      ))}
      <Drawing drawing={view.curve} className="mt-1 h-40 w-full" />
      <table className="mt-1 w-full text-sm" aria-label="What each mount takes">
        <thead>
          <tr className="text-left">
            <th scope="col" className="font-normal text-quiet">
              mount
            </th>
            <th scope="col" className="font-normal text-quiet">
              along
            </th>
            <th scope="col" className="px-2 font-normal text-quiet">
              across
            </th>
            <th scope="col" className="px-2 font-normal text-quiet">
              turned
            </th>
            <th scope="col" className="font-normal text-quiet">
              of its limit
            </th>
          </tr>
        </thead>
        <tbody>
          {view.loads.map((load) => (
            <tr key={load.name} className="border-t border-rule align-top">
              <th scope="row" className="text-left font-normal">
                {load.name}
                {load.casting ? ", casting" : ""}
              </th>
              <td>
                <Why figure={load.pressed} /> {load.pressed.label}
              </td>
              <td className="px-2">
                <Why figure={load.sheared} />
              </td>
              <td className="px-2">
                <Why figure={load.turned} />
              </td>
              <td>
                <Why figure={load.share} /> {load.fails}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Drawing drawing={view.arrows} className="mt-1 h-52 w-full" />
    </section>
  );
}
