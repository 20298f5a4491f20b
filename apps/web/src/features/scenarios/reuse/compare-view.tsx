import { useRead } from '../../../client/use-read.ts';
import { keepPreviousData } from '@tanstack/react-query';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatMoment } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { ComparisonTable } from './comparison-table.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

/** Beside an earlier state of itself, or beside another scenario. */
export function CompareView({ editor }: { readonly editor: ScenarioEditor }) {
  const { timeZone, nowMs } = useProgramme();
  const address = useAddress();
  const { code } = editor.scenario;
  const asked = { of: editor.scenario.document, placeholderData: keepPreviousData };
  const { data: states } = useRead('listScenarioStates', { params: editor.params }, asked);
  const { data: list } = useRead('listScenarioNames', {});
  const chosen = address.get('with') ?? (states?.states[1] ? `state ${states.states[1].id}` : null);
  const [kind, key] = chosen === null ? [] : chosen.startsWith('state ') ? ['state', chosen.slice(6)] : ['with', chosen];
  const input = { [kind ?? '']: key ?? '' };
  const { data } = useRead('compareScenario', { params: editor.params, input }, { ...asked, enabled: chosen !== null });
  return (
    <>
      <label className="mb-3 flex flex-wrap items-center gap-2">
        <b>Beside</b>
        <select
          className="field w-auto! max-w-[460px]"
          value={chosen ?? ''}
          onChange={(event) => address.set({ with: event.target.value })}
        >
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
          <EmptyView title="Nothing to compare with yet">
            Once this scenario has been edited, its earlier states stand here. Or choose another scenario.
          </EmptyView>
        </div>
      ) : (
        data && <ComparisonTable comparison={data} />
      )}
    </>
  );
}
