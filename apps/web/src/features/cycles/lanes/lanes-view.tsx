import type { KeptPlanChange, PlanTurn, StaffCycle } from '@kindred-baton/contracts/cycles/plan';
import { useChanges } from '../../../client/use-changes.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { useMemo, useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { FitPanel } from './fit-panel.tsx';
import { LaneBars } from './lane-bars.tsx';
import { LaneTurns } from './lane-turns.tsx';
import { sayStaffed } from './say-staffed.ts';
import { layOutLoad } from './lay-out-load.ts';
import { toTriedView } from './tried-view.ts';
import { useCyclePlan } from './use-cycle-plan.ts';
import { usePlan } from './use-plan.ts';
import { UseHelpDialog } from './use-help-dialog.tsx';

const NONE: readonly PlanChange[] = [];

/** Lanes: who has how much on which day, whether it fits, and what would help. */
export function LanesView({ cycle }: { readonly cycle: CycleDetail }) {
  const { base, can } = useProgramme();
  const address = useAddress();
  const { view, error } = useCyclePlan(cycle.code);
  const [tried, setTried] = useState(NONE);
  const [chosen, setChosen] = useState<ReadonlySet<PlanTurn['id']>>(new Set());
  const fit = usePlan(view, tried);
  const isPlanned = address.get('load') === 'planned' || tried.length > 0;
  const [isUsing, setIsUsing] = useState(false);
  // How many plans were tried by now is told ten times a second, and changes no lane.
  const { plan, tried: triedPlan } = fit;
  const chart = useMemo(() => {
    if (!view) return null;
    // Until the tried plan is there the lanes stay as they are.
    return triedPlan ? layOutLoad(toTriedView(view, tried), triedPlan) : layOutLoad(view, isPlanned ? plan : null);
  }, [view, isPlanned, plan, triedPlan, tried]);
  const staff = useStaff(cycle.code);
  const { change } = useChanges();
  const notify = useNotice();
  const canStaff = can('run cycles') && cycle.state !== 'closed';
  if (!view || !chart) return <p className="text-soft">{error ? error.message : 'Loading the plan …'}</p>;
  if (chart.lanes.length === 0)
    return (
      <div className="card">
        <EmptyView title="No lanes yet">
          No turn of this cycle belongs to a team. Take scenarios in under Scope; a turn goes to the team of its test.
        </EmptyView>
      </div>
    );
  const lane = chart.lanes.find(({ name }) => name === address.get('lane'))?.key ?? null;
  const toTurn = (id: string) => `${base}/turns/${id}`;
  const send = async (body: StaffCycle) => {
    if (await staff(body)) setChosen(new Set());
  };
  const use = async (changes: readonly PlanChange[], why: string) => {
    const staffed = await change('staffCycle', {
      params: { code: cycle.code },
      input: { kind: 'keep plan', changes: changes as KeptPlanChange[], why },
    });
    setTried(NONE);
    notify({ kind: 'done', text: sayStaffed(staffed) });
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
      <div className="min-w-0">
        <LoadChoice
          isPlanned={isPlanned}
          onChoose={(kind) => {
            setTried(NONE);
            address.set({ load: kind === 'planned' ? 'planned' : null });
          }}
        />
        <LaneBars
          chart={chart}
          chosen={lane}
          onChoose={(key) => {
            setChosen(new Set());
            address.set({ lane: chart.lanes.find((own) => own.key === key)?.name ?? null });
          }}
          onDrop={
            canStaff && chosen.size > 0 ? (person) => void send({ kind: 'give', turns: [...chosen], personId: person as never }) : null
          }
        />
        {lane !== null && (
          <LaneTurns
            view={view}
            lane={lane}
            toTurn={toTurn}
            canStaff={canStaff}
            chosen={chosen}
            onChoose={setChosen}
            onStaff={(body) => void send(body)}
          />
        )}
      </div>
      <FitPanel
        view={view}
        fit={fit}
        tried={tried}
        onTry={setTried}
        onUse={canStaff ? () => setIsUsing(true) : null}
        onSetDays={canStaff ? () => void send({ kind: 'keep plan', changes: [], why: '' }) : null}
        toTurn={toTurn}
      />
      {isUsing && <UseHelpDialog {...{ view, fit, tried, onTry: setTried, onUse: use, onClose: () => setIsUsing(false) }} />}
    </div>
  );
}

/** Sends a change of staff and says what came of it; answers whether it was done. */
function useStaff(code: string) {
  const { act } = useChanges();
  return async (input: StaffCycle): Promise<boolean> => (await act('staffCycle', { params: { code }, input }, sayStaffed)) !== undefined;
}

interface LoadChoiceProps {
  readonly isPlanned: boolean;
  readonly onChoose: (kind: 'due' | 'planned') => void;
}

function LoadChoice({ isPlanned, onChoose }: LoadChoiceProps) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-1" role="group" aria-label="What the bars show">
      {(['due', 'planned'] as const).map((kind) => (
        <button
          key={kind}
          type="button"
          aria-pressed={(kind === 'planned') === isPlanned}
          className={`button button-small ${(kind === 'planned') === isPlanned ? 'border-ink! font-bold' : 'button-quiet'}`}
          onClick={() => onChoose(kind)}
        >
          {kind === 'due' ? 'As it is due' : 'As it is planned'}
        </button>
      ))}
      <span className="ml-2 text-[13px] text-soft">
        {isPlanned ? 'each turn when its person gets to it' : 'each turn on its due day; what is overdue counts today'}; hatched: more than
        there is time for
      </span>
    </div>
  );
}
