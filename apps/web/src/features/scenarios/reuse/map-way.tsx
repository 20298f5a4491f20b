import { useRead } from '../../../client/use-read.ts';
import type { MapWayView } from '@kindred-baton/contracts/scenarios/reuse';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

/** The way over the map: which activities the scenario passes, which it leaves out there, and where its order differs. */
export function MapWay({ editor }: { readonly editor: ScenarioEditor }) {
  const { data } = useRead('getMapWay', { params: editor.params }, { of: editor.scenario.document.legs });
  if (!data) return <p className="text-soft">Following the map …</p>;
  const all = data.processes.flatMap(({ activities }) => activities);
  const passed = all.filter(({ legs }) => legs.length > 0).length;
  if (all.length === 0)
    return (
      <div className="card">
        <EmptyView title="Not on the map yet">Open legs stand nowhere; a leg stands at the activity of its test.</EmptyView>
      </div>
    );
  return (
    <>
      <p className="mb-3">
        It passes <b>{countOf(passed, 'activity', 'activities')}</b> of {countOf(data.processes.length, 'process', 'processes')}
        {passed < all.length && <> and leaves {all.length - passed} out there</>}.
      </p>
      <div className="grid content-start gap-4 md:grid-cols-2 xl:grid-cols-3">
        {data.processes.map((process) => (
          <Process key={process.node.code} process={process} editor={editor} />
        ))}
      </div>
    </>
  );
}

function Process({ process, editor }: { readonly process: MapWayView['processes'][number]; readonly editor: ScenarioEditor }) {
  const { base } = useProgramme();
  return (
    <section className="card px-4 py-3" aria-label={process.node.name}>
      <h2 className="text-[15px]">
        <a className="hover:underline" href={`${base}/map?node=${process.node.code}`}>
          {process.node.name}
        </a>
      </h2>
      <ol className="mt-2 grid gap-1.5">
        {process.activities.map(({ node, legs, tests }) => (
          <li key={node.code} className="grid min-h-[24px] grid-cols-[minmax(0,1fr)_auto] items-center gap-2 text-[13px]">
            <a className={`py-[3px] hover:underline ${legs.length === 0 ? 'text-soft' : ''}`} href={`${base}/map?node=${node.code}`}>
              {node.name}
            </a>
            {legs.length > 0 ? (
              <span className="flex flex-wrap justify-end gap-1">
                {legs.map((number) => (
                  <LegLink key={number} number={number} editor={editor} />
                ))}
              </span>
            ) : (
              <span className="text-soft">{tests === 0 ? 'left out, no test' : `left out, ${countOf(tests, 'test')}`}</span>
            )}
          </li>
        ))}
      </ol>
      {process.reversals.map(({ leg, after }) => (
        <p key={leg} className="mt-2 border-l-[3px] border-l-baton pl-2.5 text-[13px]">
          Leg {leg} comes after leg {after}; on the map its activity comes first.
        </p>
      ))}
    </section>
  );
}

function LegLink({ number, editor }: { readonly number: number; readonly editor: ScenarioEditor }) {
  const address = useAddress();
  const leg = editor.legs[number - 1];
  return (
    <button
      type="button"
      className="tag min-h-[24px] hover:underline"
      title={leg?.title}
      onClick={() => address.set({ view: null, leg: leg?.id ?? null })}
    >
      leg {number}
    </button>
  );
}
