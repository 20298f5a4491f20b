import type { TestDetail, TestVersionView } from '@kindred-baton/contracts/tests/test';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useReducer, useState } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { Choose } from '../../ui/choose.tsx';
import { formatMinutes } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import { Crumbs, PageTitle } from '../../ui/page-title.tsx';
import { RequestError, sendJson, toMessage } from '../../ui/request.ts';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ConflictDialog } from './conflict-dialog.tsx';
import { FieldsCard } from './fields-card.tsx';
import { StepSentences } from './step-sentences.tsx';
import { StepTable } from './step-table.tsx';
import { createDraft, reduceDraft, toSaveTest } from './test-draft.ts';

const KEYS = [
  { keys: 'Enter', does: 'Insert a step below' },
  { keys: 'Alt ↑ ↓', does: 'Move the step' },
  { keys: 'Alt Delete', does: 'Take the step out' },
  { keys: 'Ctrl S', does: 'Save the draft' },
  { keys: 'Ctrl V', does: 'Paste rows of a spreadsheet as steps' },
];

export function TestApp({ content, ...frame }: PageProps<TestDetail>) {
  return (
    <AppFrame {...frame} area="tests" keys={KEYS}>
      <TestEditor test={content} />
    </AppFrame>
  );
}

function TestEditor({ test }: { readonly test: TestDetail }) {
  const { base, can } = useProgramme();
  const [draft, dispatch] = useReducer(reduceDraft, test, createDraft);
  const [view, setView] = useState<'table' | 'sentences'>('table');
  const isNewest = test.version.number === test.versions[0]?.number;
  const canEdit = can('edit tests') && isNewest && test.version.state !== 'retired';
  const saving = useSaving(test, draft, dispatch);
  return (
    <>
      <PageTitle
        crumbs={<Crumbs path={test.path} base={base} />}
        title={
          <>
            <span className="mr-2 font-mono font-normal text-soft">{test.code}</span>
            {canEdit ? <NameInput name={draft.name} onChange={(name) => dispatch({ kind: 'name', name })} /> : test.name}
          </>
        }
      >
        <Choose
          label="Version"
          chosen={String(test.version.number)}
          choices={test.versions.map(({ number, state }) => ({ key: String(number), name: `${number}, ${state}` }))}
          onChoose={(number) => (location.search = `?version=${number}`)}
        />
        <Choose
          label="Steps as"
          chosen={view}
          choices={[
            { key: 'table', name: 'Table' },
            { key: 'sentences', name: 'Sentences' },
          ]}
          onChoose={(key) => setView(key === 'sentences' ? 'sentences' : 'table')}
        />
        {canEdit && (
          <>
            <button
              type="button"
              className={`button ${draft.isChanged ? 'button-primary' : ''}`}
              disabled={!draft.isChanged || saving.isBusy}
              onClick={() => void saving.save()}
            >
              {test.version.state === 'agreed' && draft.base.number === test.version.number ? 'Save as a new draft' : 'Save draft'}
            </button>
            {can('agree tests') && (
              <button
                type="button"
                className="button"
                disabled={draft.isChanged || saving.isBusy || !saving.isDraft}
                onClick={() => void saving.agree()}
              >
                Agree version {draft.base.number}
              </button>
            )}
          </>
        )}
      </PageTitle>
      <div className="grid gap-4 lg:grid-cols-[216px_minmax(0,1fr)_236px]">
        <div className="grid content-start gap-3">
          <FieldsCard
            title="Needs"
            fields={draft.needs}
            none="Nothing from outside."
            canEdit={canEdit}
            onChange={(field) => dispatch({ kind: 'field', field })}
          />
          <FieldsCard
            title="Gives"
            fields={draft.gives}
            none="Nothing yet. Keep what the next team needs."
            canEdit={canEdit}
            onChange={(field) => dispatch({ kind: 'field', field })}
          />
        </div>
        <div className="card min-w-0">
          {view === 'table' ? (
            <StepTable steps={draft.steps} canEdit={canEdit} dispatch={dispatch} problems={saving.problems} />
          ) : (
            <StepSentences steps={draft.steps} canEdit={canEdit} onChange={(steps) => dispatch({ kind: 'steps', steps })} />
          )}
        </div>
        <About test={test} minutes={draft.minutes} canEdit={canEdit} onMinutes={(minutes) => dispatch({ kind: 'minutes', minutes })} />
      </div>
      {saving.conflict && (
        <ConflictDialog
          theirs={saving.conflict}
          mine={draft}
          onTakeTheirs={() => location.reload()}
          onKeepMine={() => {
            dispatch({ kind: 'rebase', base: { number: saving.conflict?.number ?? 0, revision: saving.conflict?.revision ?? 0 } });
            saving.forgetConflict();
          }}
        />
      )}
    </>
  );
}

function NameInput({ name, onChange }: { readonly name: string; readonly onChange: (name: string) => void }) {
  return (
    <input
      aria-label="Name of the test"
      className="rounded-control border border-transparent bg-transparent px-1 font-bold hover:border-line focus:border-soft"
      size={Math.max(18, name.length)}
      maxLength={200}
      value={name}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** Saving and agreeing: refusals stand where they belong, and what was typed stays. */
function useSaving(test: TestDetail, draft: ReturnType<typeof createDraft>, dispatch: (event: Parameters<typeof reduceDraft>[1]) => void) {
  const { api } = useProgramme();
  const notify = useNotice();
  const client = useQueryClient();
  const [isBusy, setIsBusy] = useState(false);
  const [isDraft, setIsDraft] = useState(test.version.state === 'draft');
  const [conflict, setConflict] = useState<TestVersionView | null>(null);
  const [problems, setProblems] = useState<RequestError['problems']>([]);
  const path = `${api}/tests/${test.code}`;
  const attempt = async (send: () => Promise<void>) => {
    setIsBusy(true);
    setProblems([]);
    try {
      await send();
      await client.invalidateQueries({ queryKey: ['tests'] });
    } catch (error) {
      const theirs =
        error instanceof RequestError && error.code === 'conflict'
          ? (error.details as { theirs?: TestVersionView } | null)?.theirs
          : undefined;
      if (theirs) setConflict(theirs);
      else notify({ kind: 'problem', text: toMessage(error) });
      if (error instanceof RequestError) setProblems(error.problems);
    } finally {
      setIsBusy(false);
    }
  };
  const save = () =>
    attempt(async () => {
      const saved = await sendJson<{ number: number; revision: number }>('PUT', path, toSaveTest(draft));
      dispatch({ kind: 'saved', base: saved });
      setIsDraft(true);
      notify({ kind: 'done', text: `Version ${saved.number} is saved as a draft.` });
    });
  const agree = () =>
    attempt(async () => {
      await sendJson('POST', `${path}/agree`, draft.base);
      location.search = '';
    });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key === 's') {
        event.preventDefault();
        if (draft.isChanged) void save();
      }
    };
    const onLeave = (event: BeforeUnloadEvent) => draft.isChanged && event.preventDefault();
    addEventListener('keydown', onKey);
    addEventListener('beforeunload', onLeave);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('beforeunload', onLeave);
    };
  });
  return { save, agree, isBusy, isDraft, conflict, problems, forgetConflict: () => setConflict(null) };
}

interface AboutProps {
  readonly test: TestDetail;
  readonly minutes: number;
  readonly canEdit: boolean;
  readonly onMinutes: (minutes: number) => void;
}

function About({ test, minutes, canEdit, onMinutes }: AboutProps) {
  const { base } = useProgramme();
  return (
    <SidePanel label="About this test">
      <div className="px-4 py-3 text-[13px]">
        <p>
          {test.team?.name ?? 'No team'} · {test.application?.name ?? 'no application'}
        </p>
        {canEdit ? (
          <label className="mt-2 flex items-center gap-2">
            Minutes by hand
            <input
              type="number"
              min={1}
              max={10_000}
              className="field w-[84px]!"
              value={minutes}
              onChange={(event) => onMinutes(Number(event.target.value))}
            />
          </label>
        ) : (
          <p className="text-soft">{formatMinutes(minutes)} by hand</p>
        )}
      </div>
      <PanelPart title="Last ten attempts">
        {test.attempts.length === 0 ? (
          <p className="text-[13px] text-soft">None yet.</p>
        ) : (
          <div className="flex flex-wrap gap-1.5">
            {test.attempts.map((attempt) => (
              <a
                key={attempt.at + attempt.turnId}
                href={`${base}/turns/${attempt.turnId}`}
                className="flex h-[24px] items-center"
                title={attempt.by}
              >
                <BatonMark status={attempt.outcome} />
              </a>
            ))}
          </div>
        )}
      </PanelPart>
      <PanelPart title="Used as a leg in" count={test.usedIn.length}>
        {test.usedIn.length === 0 && <p className="text-[13px] text-soft">No scenario uses it.</p>}
        <ul>
          {test.usedIn.map((scenario) => (
            <li key={scenario.id} className="py-1 text-[13px]">
              <a className="hover:underline" href={`${base}/scenarios/${scenario.code}`}>
                {scenario.name}
              </a>
            </li>
          ))}
        </ul>
      </PanelPart>
    </SidePanel>
  );
}
