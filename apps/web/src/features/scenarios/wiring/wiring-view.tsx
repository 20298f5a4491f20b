import type { ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { NeedSource } from '@kindred-baton/core/scenarios/chain';
import type { WalkedLeg, WalkedValue } from '@kindred-baton/core/scenarios/walk-through';
import { walkThrough } from '@kindred-baton/core/scenarios/walk-through';
import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import { useMemo } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { FindingLines } from './finding-lines.tsx';
import { SOURCE_LABELS } from '../relay/need-line.tsx';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';
import { describeArrival } from './wiring-panel.tsx';

interface WiringViewProps {
  readonly editor: ScenarioEditor;
  readonly row: ScenarioDetail['document']['rows'][number] | null;
}

/** Each need of each leg: where its value comes from, its type, what it is in this row; and what the baton holds afterwards. */
export function WiringView({ editor, row }: WiringViewProps) {
  const address = useAddress();
  const walk = useMemo(() => walkThrough(editor.chain, row?.values ?? {}), [editor.chain, row]);
  if (editor.legs.length === 0)
    return (
      <div className="card">
        <EmptyView title="Nothing to wire yet">Add legs in the relay; what they need and give is wired here by itself.</EmptyView>
      </div>
    );
  const choose = (leg: string) => address.set({ view: null, leg });
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section className="card min-w-0 overflow-x-auto" aria-label="Walk-through with examples">
        <h2 className="px-4 pt-3">
          Walk-through <span className="font-normal text-soft">{row ? `with the row “${row.name}”` : 'with examples'}</span>
        </h2>
        <table className="grid-table mx-2 w-[calc(100%-16px)]">
          <thead>
            <tr>
              <th scope="col">Needs</th>
              <th scope="col">Type</th>
              <th scope="col">Comes from</th>
              <th scope="col">Is then</th>
            </tr>
          </thead>
          {walk.map((step) => {
            const leg = editor.legs[step.index];
            return leg ? <LegRows key={leg.id} editor={editor} leg={leg} step={step} onChoose={() => choose(leg.id)} /> : null;
          })}
        </table>
      </section>
      <section className="card self-start px-4 py-3" aria-label="Findings">
        <h2 className="mb-2">{describeArrival(editor)}</h2>
        {editor.findings.length > 0 ? (
          <FindingLines findings={editor.findings} editor={editor} onChoose={choose} />
        ) : (
          <p className="text-[13px] text-soft">Nothing to look at: each need has its value when it is needed.</p>
        )}
      </section>
    </div>
  );
}

interface LegRowsProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
  readonly step: WalkedLeg;
  readonly onChoose: () => void;
}

function LegRows({ editor, leg, step, onChoose }: LegRowsProps) {
  return (
    <tbody>
      <tr>
        <th scope="rowgroup" colSpan={4} className="bg-band text-left text-ink!">
          <button type="button" className="hover:underline" onClick={onChoose}>
            <b>
              {leg.index + 1} {leg.title}
            </b>
          </button>{' '}
          <span className="font-normal text-soft">{leg.team?.name ?? 'no team yet'}</span>
        </th>
      </tr>
      {step.needs.map(({ need, source, value }) => (
        <tr key={need.name}>
          <td>
            {need.name}
            {need.required === false && <span className="text-soft"> if any</span>}
          </td>
          <td className="text-[13px] text-soft">{FIELD_TYPE_LABELS[need.type]}</td>
          <td className="text-[13px]">
            <Origin editor={editor} source={source} isOptional={need.required === false} />
          </td>
          <td>
            <Value value={value} />
          </td>
        </tr>
      ))}
      {step.needs.length === 0 && (
        <tr>
          <td colSpan={4} className="text-[13px] text-soft">
            It needs nothing.
          </td>
        </tr>
      )}
      <tr>
        <td colSpan={4}>
          <span className="flex flex-wrap items-center gap-1.5 text-[13px]">
            <span className="text-soft">Then the baton holds</span>
            {step.baton.length === 0 && <span className="text-soft">nothing</span>}
            {step.baton.map((held) => (
              <BatonChip key={held.name} name={held.name} value={held.value} />
            ))}
          </span>
        </td>
      </tr>
    </tbody>
  );
}

function Origin({
  editor,
  source,
  isOptional,
}: {
  readonly editor: ScenarioEditor;
  readonly source: NeedSource;
  readonly isOptional: boolean;
}) {
  if (source.kind === 'leg') {
    const index = editor.legs.findIndex(({ id }) => id === source.leg);
    return (
      <>
        leg {index + 1}, {source.field.name}
        {source.isConverted && <span className="text-soft">, converted</span>}
        {source.passedOver.length > 0 && (
          <span className="text-soft">, {countOf(source.passedOver.length, 'other giver')} passed over</span>
        )}
      </>
    );
  }
  if (source.kind === 'column') return <>column {source.field.name}</>;
  const isFine = isOptional || source.kind === 'fixed' || source.kind === 'own' || source.kind === 'new';
  return <span className={isFine ? '' : 'font-semibold text-failed'}>{SOURCE_LABELS[source.kind](source as never)}</span>;
}

function Value({ value }: { readonly value: WalkedValue | null }) {
  if (value === null) return <span className="text-[13px] text-soft">nothing</span>;
  return (
    <span className="font-mono text-[13px]" title={value.isExample ? 'An example: the real one is kept at run time' : undefined}>
      {value.value}
      {value.isExample && <span className="font-sans text-soft"> e.g.</span>}
    </span>
  );
}
