import type { RunOverlay, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import { useQuery } from '@tanstack/react-query';
import Plus from 'lucide-react/icons/plus';
import ShieldCheck from 'lucide-react/icons/shield-check';
import { useState } from 'react';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { Choose } from '../../ui/choose.tsx';
import { Crumbs, PageTitle } from '../../ui/page-title.tsx';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { AddLegDialog } from './add-leg-dialog.tsx';
import { LegPanel } from './leg-panel.tsx';
import { RelayView } from './relay-view.tsx';
import { RowsTable } from './rows-table.tsx';
import { useScenario } from './use-scenario.ts';
import { WiringPanel } from './wiring-panel.tsx';

const KEYS = [
  { keys: '← →', does: 'Walk the legs' },
  { keys: 'Alt ← →', does: 'Move the leg earlier or later' },
  { keys: 'Delete', does: 'Take the leg out' },
  { keys: 'Esc', does: 'Choose no leg: show the wiring' },
];

export function ScenarioApp({ content, ...frame }: PageProps<ScenarioDetail>) {
  return (
    <AppFrame {...frame} area="scenarios" keys={KEYS}>
      <Scenario initial={content} />
    </AppFrame>
  );
}

function Scenario({ initial }: { readonly initial: ScenarioDetail }) {
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const hand = useScenario(initial);
  const { scenario, findings } = hand;
  const [isAdding, setIsAdding] = useState(false);
  const runId = address.get('run') ?? scenario.runs[0]?.id ?? null;
  const hasRun = runId !== null && runId !== 'none';
  const { data: overlay } = useQuery({
    queryKey: ['runs', runId],
    queryFn: () => getJson<RunOverlay>(`${api}/runs/${runId}`),
    enabled: hasRun,
    placeholderData: (before) => before,
  });
  const run = hasRun ? (overlay ?? null) : null;
  const row = scenario.rows.find(({ name }) => name === (address.get('row') ?? run?.rowName)) ?? scenario.rows[0] ?? null;
  const chosen = scenario.legs.find(({ id }) => id === address.get('leg')) ?? null;
  const errors = findings.filter((finding) => finding.weight === 'error').length;
  const canEdit = can('edit scenarios');
  return (
    <>
      <PageTitle
        crumbs={<Crumbs path={scenario.path} base={base} />}
        title={scenario.name}
        about={<StateOf hand={hand} canEdit={canEdit} />}
      >
        {scenario.rows.length > 0 && (
          <Choose
            label="Row"
            chosen={row?.name ?? null}
            choices={scenario.rows.map(({ name }) => ({ key: name, name }))}
            onChoose={(name) =>
              address.set({ row: name, run: scenario.runs.find((candidate) => candidate.rowName === name)?.id ?? 'none' })
            }
          />
        )}
        {scenario.runs.length > 0 && (
          <Choose
            label="Run"
            chosen={runId ?? 'none'}
            choices={[{ key: 'none', name: 'none' }, ...scenario.runs.map(({ id, label }) => ({ key: id, name: label }))]}
            onChoose={(id) => address.set({ run: id, row: null })}
          />
        )}
        <button type="button" className="button" aria-pressed={chosen === null} onClick={() => address.set({ leg: null })}>
          <ShieldCheck size={17} aria-hidden /> Wiring: {errors === 0 ? 'arrives' : `${errors} to fix`}
        </button>
        {canEdit && (
          <button type="button" className="button button-primary" onClick={() => setIsAdding(true)}>
            <Plus size={17} aria-hidden /> Add a leg
          </button>
        )}
      </PageTitle>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
        <div className="min-w-0">
          <RelayView
            hand={hand}
            run={run}
            chosen={chosen?.id ?? null}
            onChoose={(leg) => address.set({ leg }, { replace: true })}
            canEdit={canEdit}
          />
          <BatonSoFar run={run} />
          <RowsTable hand={hand} canEdit={canEdit} />
        </div>
        {chosen ? (
          <LegPanel hand={hand} leg={chosen} run={run} row={row} canEdit={canEdit} />
        ) : (
          <WiringPanel hand={hand} canEdit={canEdit} onChoose={(leg) => address.set({ leg }, { replace: true })} />
        )}
      </div>
      <AddLegDialog hand={hand} after={chosen} isOpen={isAdding} onClose={() => setIsAdding(false)} />
    </>
  );
}

function StateOf({ hand, canEdit }: { readonly hand: ReturnType<typeof useScenario>; readonly canEdit: boolean }) {
  const { code, state } = hand.scenario;
  return (
    <>
      <span className="font-mono">{code}</span> · {state}
      {canEdit && state === 'sketch' && (
        <button
          type="button"
          className="button button-quiet button-small ml-2 underline"
          onClick={() => void hand.changeScenario({ state: 'agreed' })}
        >
          Agree it
        </button>
      )}
    </>
  );
}

function BatonSoFar({ run }: { readonly run: RunOverlay | null }) {
  if (!run) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-2">
      <b>In the baton</b>
      {run.baton.length === 0 && <span className="text-soft">nothing yet</span>}
      {run.baton.map((value) => (
        <BatonChip key={value.name} name={value.name} value={value.value} canCopy />
      ))}
    </p>
  );
}
