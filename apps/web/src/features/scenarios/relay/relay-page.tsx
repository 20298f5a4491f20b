import type { RunOverlay, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import { lazy, Suspense } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { RelayView } from './relay-view.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';
import { WiringPanel } from '../wiring/wiring-panel.tsx';

const LegPanel = lazy(() => import('./leg-panel.tsx').then(({ LegPanel: Panel }) => ({ default: Panel })));
const AddPanel = lazy(() => import('./add-panel.tsx').then(({ AddPanel: Panel }) => ({ default: Panel })));

interface RelayPageProps {
  readonly editor: ScenarioEditor;
  readonly run: RunOverlay | null;
  readonly row: ScenarioDetail['document']['rows'][number] | null;
}

/** The relay, the baton so far, and at the right the chosen leg, what is added, or the wiring. */
export function RelayPage({ editor, run, row }: RelayPageProps) {
  const address = useAddress();
  const chosen = editor.legs.find(({ id }) => id === address.get('leg')) ?? null;
  const choose = (leg: string | null) => address.set({ leg, value: null, add: null }, { replace: true });
  const isAdding = editor.canEdit && address.get('add') !== null;
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
      <div className="min-w-0">
        <RelayView
          editor={editor}
          run={run}
          chosen={chosen?.id ?? null}
          value={address.get('value')}
          onChoose={choose}
          onAdd={() => address.set({ add: 'tests' })}
        />
        <BatonSoFar run={run} />
      </div>
      {isAdding ? (
        <Suspense fallback={null}>
          <AddPanel editor={editor} after={chosen} />
        </Suspense>
      ) : chosen ? (
        <Suspense fallback={null}>
          <LegPanel key={chosen.id} editor={editor} leg={chosen} run={run} row={row} />
        </Suspense>
      ) : (
        <WiringPanel editor={editor} onChoose={choose} />
      )}
    </div>
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
