import type { Output } from '../../../client/call.ts';
import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

/** Where scenarios repeat one another: what could be cut first. */
export function OverlapView() {
  const { data } = useRead('getOverlaps', {});
  if (!data) return <PageTitle title="Overlap" about="Comparing the scenarios …" />;
  const { contained, stretches, totals } = data;
  return (
    <>
      <PageTitle
        title="Overlap"
        about={`${countOf(totals.contained, 'scenario')} within another · ${countOf(totals.stretches, 'stretch', 'stretches')} that several share`}
      />
      <div className="grid gap-4">
        <Contained contained={contained} />
        <Stretches stretches={stretches} />
      </div>
    </>
  );
}

function ScenarioLink({
  place,
  isShort = false,
}: {
  readonly place: { readonly code: string; readonly name: string };
  readonly isShort?: boolean;
}) {
  const { base } = useProgramme();
  return (
    <a className="hover:underline" href={`${base}/scenarios/${place.code}`} title={place.name}>
      <span className="font-mono text-[13px]">{place.code}</span> {!isShort && <b>{place.name}</b>}
    </a>
  );
}

/** Scenarios whose legs are all in another. */
function Contained({ contained }: Pick<Output<'getOverlaps'>, 'contained'>) {
  return (
    <section className="card px-2" aria-label="One within another">
      <h2 className="px-2 pt-3">One within another</h2>
      {contained.length === 0 ? (
        <EmptyView title="No scenario is part of another">None goes only through what another goes through as well.</EmptyView>
      ) : (
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Could go</th>
              <th scope="col">Its legs are all in</th>
              <th scope="col">Saves</th>
            </tr>
          </thead>
          <tbody>
            {contained.map(({ inner, outer, isEqual, minutes, runs }) => (
              <tr key={`${inner.code} ${outer.code}`}>
                <td>
                  <ScenarioLink place={inner} />
                </td>
                <td>
                  <ScenarioLink place={outer} /> {isEqual && <span className="text-soft">with the same legs</span>}
                </td>
                <td className="text-[13px] whitespace-nowrap">
                  {formatMinutes(minutes)} in {countOf(runs, 'run')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** Legs in a row that several scenarios have. */
function Stretches({ stretches }: Pick<Output<'getOverlaps'>, 'stretches'>) {
  return (
    <section className="card px-2" aria-label="Shared stretches">
      <h2 className="px-2 pt-3">Shared stretches</h2>
      {stretches.length === 0 ? (
        <EmptyView title="No stretch is shared">No three legs in a row stand in several scenarios.</EmptyView>
      ) : (
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Legs in a row</th>
              <th scope="col">In</th>
              <th scope="col">Each time</th>
            </tr>
          </thead>
          <tbody>
            {stretches.map(({ tests, places, minutes }) => (
              <tr key={`${tests.map(({ code }) => code).join()} ${places.map(({ scenario, at }) => `${scenario.code}${at}`).join()}`}>
                <td>
                  <b>{countOf(tests.length, 'leg')}</b>{' '}
                  <span className="text-[13px] text-soft">{tests.map(({ name }) => name).join(' › ')}</span>
                </td>
                <td className="text-[13px]">
                  {places.map(({ scenario, at }, index) => (
                    <span key={`${scenario.code} ${at}`}>
                      {index > 0 && ', '}
                      <ScenarioLink place={scenario} isShort /> <span className="text-soft">from leg {at}</span>
                    </span>
                  ))}
                </td>
                <td className="text-[13px] whitespace-nowrap">{formatMinutes(minutes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
