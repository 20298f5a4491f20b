import { getLeavingLabel } from '@kindred-baton/core/cycles/cycle';
import { getStatusLabel } from '@kindred-baton/core/outcomes';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { CycleDetail, RunList } from '@kindred-baton/contracts/cycles/cycle';
import { keepPreviousData } from '@tanstack/react-query';
import { useState } from 'react';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { DialogBox } from '../../../ui/dialog.tsx';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { TextArea } from '../../../ui/field.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { Pages } from '../../../ui/pages.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { Chosen } from './choose-scope.ts';
import { measureChosen, toScopeItems } from './choose-scope.ts';
import { DropRunsDialog } from './drop-runs-dialog.tsx';
import { ScopeChanges } from './scope-changes.tsx';
import { ScopePicker } from './scope-picker.tsx';

/** What the cycle holds: every run as a row of marks, and what was changed of it since it opened. */
export function ScopeView({ cycle }: { readonly cycle: CycleDetail }) {
  const { can } = useProgramme();
  const address = useAddress();
  const [asked, setAsked] = useState<'add' | 'drop' | null>(null);
  const chosen = new Set((address.get('drop') ?? '').split(',').flatMap((text) => (/^\d+$/.test(text) ? [Number(text)] : [])));
  const canChange = can('run cycles') && (cycle.state === 'planning' || cycle.state === 'open');
  const setChosen = (numbers: ReadonlySet<number>) =>
    address.set({ drop: [...numbers].sort((one, other) => one - other).join(',') || null }, { replace: true });
  return (
    <>
      {canChange && (
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <button type="button" className="button button-small" onClick={() => setAsked('add')}>
            Take scenarios in
          </button>
          <button type="button" className="button button-small" disabled={chosen.size === 0} onClick={() => setAsked('drop')}>
            {chosen.size === 0 ? 'Take runs out' : `Take ${countOf(chosen.size, 'run')} out`}
          </button>
          {cycle.state === 'open' && (
            <span className="text-[13px] text-soft">The cycle is open: each change is kept with who made it and why.</span>
          )}
        </div>
      )}
      <RunTable code={cycle.code} chosen={chosen} onChoose={canChange ? setChosen : null} />
      {cycle.scopeChanges.length > 0 && (
        <div className="mt-4">
          <ScopeChanges changes={cycle.scopeChanges} empty="" />
        </div>
      )}
      {asked === 'add' && <AddDialog cycle={cycle} onClose={() => setAsked(null)} />}
      {asked === 'drop' && (
        <DropRunsDialog
          cycle={cycle}
          numbers={[...chosen]}
          onClose={() => setAsked(null)}
          onDone={() => {
            setChosen(new Set());
            setAsked(null);
          }}
        />
      )}
    </>
  );
}

interface RunTableProps {
  readonly code: string;
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: ((chosen: ReadonlySet<number>) => void) | null;
}

function RunTable({ code, chosen, onChoose }: RunTableProps) {
  const address = useAddress();
  const page = Math.max(1, Math.trunc(Number(address.get('page'))) || 1);
  const { data, error } = useRead('listRuns', { params: { code }, input: { page } }, { placeholderData: keepPreviousData });
  if (!data) return <p className="text-soft">{error ? error.message : 'One moment …'}</p>;
  if (data.total === 0)
    return (
      <div className="card">
        <EmptyView title="Nothing is in it yet">Take scenarios in; each of their data rows becomes a run.</EmptyView>
      </div>
    );
  const toggle = (number: number) => {
    const next = new Set(chosen);
    if (!next.delete(number)) next.add(number);
    onChoose?.(next);
  };
  const from = data.page === data.pages ? data.total - data.runs.length : (data.page - 1) * data.runs.length;
  const go = (to: number) => address.set({ page: to === 1 ? null : String(to) });
  return (
    <>
      <div className="card overflow-x-auto px-2">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Run</th>
              <th scope="col">Scenario</th>
              <th scope="col">Data row</th>
              <th scope="col">Priority</th>
              <th scope="col">Turns</th>
            </tr>
          </thead>
          <tbody>
            {data.runs.map((run) => (
              <RunRow key={run.id} run={run} isChosen={chosen.has(run.number)} onToggle={onChoose ? () => toggle(run.number) : null} />
            ))}
          </tbody>
        </table>
      </div>
      <Pages
        {...{ noun: 'Runs', from, to: from + data.runs.length - 1, size: data.total }}
        onBefore={() => go(data.page - 1)}
        onNext={() => go(data.page + 1)}
      />
    </>
  );
}

function AddDialog({ cycle, onClose }: { readonly cycle: CycleDetail; readonly onClose: () => void }) {
  const { change } = useChanges();
  const [chosen, setChosen] = useState<Chosen>(new Map());
  const { data: scope, error } = useRead('getCycleScope', {});
  const form = useForm(async ({ why = '' }) => {
    const input = { add: toScopeItems(chosen), drop: [], why };
    await change('changeScope', { params: { code: cycle.code }, input });
    onClose();
  });
  const size = scope ? measureChosen(scope.scenarios, chosen) : null;
  return (
    <DialogBox title={`Take scenarios into ${cycle.name}`} isOpen onClose={onClose} width={900}>
      {!scope ? (
        <p className="text-soft">{error ? error.message : 'Gathering what can be taken in …'}</p>
      ) : (
        <form onSubmit={form.onSubmit}>
          <div className="mb-3 max-h-[46vh] overflow-y-auto">
            <ScopePicker scope={scope} chosen={chosen} onChange={setChosen} />
          </div>
          {cycle.state === 'open' && <TextArea label="Why" name="why" required rows={2} problem={form.problemOf('why')} />}
          <FormFoot
            form={form}
            label={size && size.runs > 0 ? `Take ${countOf(size.runs, 'run')} in, ${formatMinutes(size.minutes)} of work` : 'Take in'}
            onCancel={onClose}
          />
        </form>
      )}
    </DialogBox>
  );
}

interface RunRowProps {
  readonly run: RunList['runs'][number];
  readonly isChosen: boolean;
  /** null: it cannot be chosen. */
  readonly onToggle: (() => void) | null;
}

function RunRow({ run, isChosen, onToggle }: RunRowProps) {
  const { base } = useProgramme();
  return (
    <tr className={run.leftTo === null ? '' : 'text-soft'}>
      <td className="font-mono text-[13px] whitespace-nowrap text-soft">
        <label className="flex min-h-[24px] items-center gap-2">
          {onToggle && (
            <input
              type="checkbox"
              aria-label={`Choose run ${run.number}`}
              checked={isChosen}
              disabled={run.leftTo !== null}
              onChange={onToggle}
            />
          )}
          {run.number}
        </label>
      </td>
      <td>
        <a className="hover:underline" href={`${base}/scenarios/${run.scenario.code}?run=${run.id}`}>
          {run.scenario.name}
        </a>
        {run.leftTo !== null && (
          <span className="block text-[13px]">
            {getLeavingLabel(run.leftTo)}
            {run.leftReason !== '' && `: ${run.leftReason}`}
          </span>
        )}
      </td>
      <td className="text-[13px] text-soft">{run.rowName ?? '–'}</td>
      <td className="text-[13px] text-soft">{run.priority}</td>
      <td>
        <span className="flex flex-wrap gap-1">
          {run.turns.map((turn) => (
            <a
              key={turn.id}
              className="flex h-[24px] items-center"
              href={`${base}/turns/${turn.id}`}
              title={`${turn.title}: ${getStatusLabel(turn.status)} · ${turn.team} · ${turn.assignee ?? 'nobody yet'}`}
              aria-label={`${turn.title}: ${getStatusLabel(turn.status)}`}
            >
              <BatonMark status={turn.status} isDecoration />
            </a>
          ))}
        </span>
      </td>
    </tr>
  );
}
