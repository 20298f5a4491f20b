import Plus from 'lucide-react/icons/plus';
import ShieldCheck from 'lucide-react/icons/shield-check';
import { Choose } from '../../ui/menus/choose.tsx';
import { Crumbs, PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { ScenarioView } from './scenario-tabs.tsx';
import type { ScenarioEditor } from './use-scenario.ts';

interface ScenarioTitleProps {
  readonly editor: ScenarioEditor;
  readonly view: ScenarioView;
  readonly row: string | null;
  readonly runId: string | null;
}

/** What this scenario is, whether its batons arrive, and what can be done with it. */
export function ScenarioTitle({ editor, view, row, runId }: ScenarioTitleProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const { scenario, findings, canEdit } = editor;
  const { rows } = scenario.document;
  const errors = findings.filter(({ weight }) => weight === 'error').length;
  const hasRow = rows.length > 0 && (view === 'relay' || view === 'wiring');
  return (
    <PageTitle crumbs={<Crumbs path={scenario.path} base={base} />} title={scenario.name} about={<StateOf editor={editor} />}>
      {hasRow && (
        <Choose
          label="Row"
          chosen={row}
          choices={rows.map(({ name }) => ({ key: name, name }))}
          onChoose={(name) => address.set({ row: name, run: scenario.runs.find(({ rowName }) => rowName === name)?.id ?? 'none' })}
        />
      )}
      {view === 'relay' && scenario.runs.length > 0 && (
        <Choose
          label="Run"
          chosen={runId ?? 'none'}
          choices={[{ key: 'none', name: 'none' }, ...scenario.runs.map(({ id, label }) => ({ key: id, name: label }))]}
          onChoose={(id) => address.set({ run: id, row: null })}
        />
      )}
      {view === 'relay' && (
        <button type="button" className="button" onClick={() => address.set({ leg: null, value: null, add: null })}>
          <ShieldCheck size={17} aria-hidden /> Wiring: {errors === 0 ? 'arrives' : `${errors} to fix`}
        </button>
      )}
      {view === 'relay' && canEdit && (
        <button type="button" className="button button-primary" onClick={() => address.set({ add: 'tests' })}>
          <Plus size={17} aria-hidden /> Add legs
        </button>
      )}
    </PageTitle>
  );
}

function StateOf({ editor }: { readonly editor: ScenarioEditor }) {
  const { code, state } = editor.scenario;
  return (
    <>
      <span className="font-mono">{code}</span> · {state}
      {editor.canEdit && state === 'sketch' && (
        <button
          type="button"
          className="button button-quiet button-small ml-2 underline"
          onClick={() => void editor.change({ state: 'agreed' })}
        >
          Agree it
        </button>
      )}
    </>
  );
}
