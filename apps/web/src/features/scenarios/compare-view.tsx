import type { ComparisonView, ScenarioStates } from '@kindred-baton/contracts/scenarios/reuse';
import type { ScenarioList } from '@kindred-baton/contracts/scenarios/scenario';
import { useQuery } from '@tanstack/react-query';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatMoment } from '../../ui/format.ts';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { ScenarioInHand } from './use-scenario.ts';

/** Beside an earlier state of itself, or beside another scenario. */
export function CompareView({ hand }: { readonly hand: ScenarioInHand }) {
  const { api, timeZone, nowMs } = useProgramme();
  const address = useAddress();
  const { code } = hand.scenario;
  const { data: states } = useQuery({
    queryKey: ['scenarios', code, 'states', hand.scenario.document],
    queryFn: () => getJson<ScenarioStates>(`${hand.path}/states`),
    placeholderData: (before) => before,
  });
  const { data: list } = useQuery({ queryKey: ['scenarios'], queryFn: () => getJson<ScenarioList>(`${api}/scenarios`) });
  const chosen = address.get('with') ?? (states?.states[1] ? `state ${states.states[1].id}` : null);
  const [kind, key] = chosen === null ? [] : chosen.startsWith('state ') ? ['state', chosen.slice(6)] : ['with', chosen];
  const { data } = useQuery({
    queryKey: ['scenarios', code, 'compared', chosen, hand.scenario.document],
    queryFn: () => getJson<ComparisonView>(`${hand.path}/compare?${new URLSearchParams({ [kind ?? '']: key ?? '' }).toString()}`),
    enabled: chosen !== null,
    placeholderData: (before) => before,
  });
  return (
    <>
      <label className="mb-3 flex flex-wrap items-center gap-2">
        <b>Beside</b>
        <select className="field w-auto! max-w-[460px]" value={chosen ?? ''} onChange={(event) => address.set({ with: event.target.value })}>
          <option value="">choose</option>
          <optgroup label="This scenario, as it was">
            {(states?.states ?? []).map(({ id, savedAt, by, legs, rows }) => (
              <option key={id} value={`state ${id}`}>
                {formatMoment(savedAt, timeZone, nowMs)}, {by ?? 'at first'}: {countOf(legs, 'leg')}, {countOf(rows, 'row')}
              </option>
            ))}
          </optgroup>
          <optgroup label="Another scenario">
            {(list?.scenarios ?? [])
              .filter((other) => other.code !== code)
              .map((other) => (
                <option key={other.code} value={other.code}>
                  {other.code} {other.name}
                </option>
              ))}
          </optgroup>
        </select>
      </label>
      {chosen === null ? (
        <div className="card">
          <EmptyView title="Nothing to compare with yet">Once this scenario has been edited, its earlier states stand here. Or choose another scenario.</EmptyView>
        </div>
      ) : (
        data && <Comparison comparison={data} />
      )}
    </>
  );
}

const KIND_WORDS = { same: '', changed: 'changed', moved: 'moved', added: 'new', removed: 'gone' } as const;

function Comparison({ comparison }: { readonly comparison: ComparisonView }) {
  const differing = comparison.legs.filter(({ kind }) => kind !== 'same').length;
  return (
    <section className="card" aria-label="Comparison">
      <h2 className="px-4 pt-3">
        {comparison.isSame ? 'They are the same.' : `${countOf(differing, 'leg')} differ${differing === 1 ? 's' : ''}`}
        {comparison.data.length > 0 && `, ${countOf(comparison.data.length, 'difference')} in the data`}
      </h2>
      <div className="overflow-x-auto px-2 pb-1">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">{comparison.before}</th>
              <th scope="col">{comparison.after} now</th>
              <th scope="col">What differs</th>
            </tr>
          </thead>
          <tbody>
            {comparison.legs.map(({ kind, before, after, changes }, index) => (
              <tr key={index} className={kind === 'same' ? 'text-soft' : ''}>
                <td>{before && <Side side={before} isGone={kind === 'removed'} />}</td>
                <td>{after && <Side side={after} isNew={kind === 'added'} />}</td>
                <td className="text-[13px]">
                  {KIND_WORDS[kind] !== '' && <b className="mr-2">{KIND_WORDS[kind]}</b>}
                  {changes.join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {comparison.data.length > 0 && (
        <ul className="border-t border-line-2 px-4 py-3 text-[13px]">
          {comparison.data.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface SideProps {
  readonly side: NonNullable<ComparisonView['legs'][number]['before']>;
  readonly isGone?: boolean;
  readonly isNew?: boolean;
}

function Side({ side, isGone = false, isNew = false }: SideProps) {
  return (
    <span className={isGone ? 'line-through' : isNew ? 'font-bold' : ''}>
      {side.index} {side.title} <span className="font-mono text-[12px] text-soft">{side.test ?? 'open'}</span>{' '}
      <span className="text-[12px] text-soft">{side.team}</span>
    </span>
  );
}
