import type { TestDetail, TestSurroundings } from '@kindred-baton/contracts/tests/test';
import { proposeTidying } from '@kindred-baton/core/tests/tidy/rules';
import { useQuery } from '@tanstack/react-query';
import Columns2 from 'lucide-react/icons/columns-2';
import Redo from 'lucide-react/icons/redo-2';
import Sparkles from 'lucide-react/icons/brush-cleaning';
import Undo from 'lucide-react/icons/undo-2';
import { lazy, Suspense, useEffect, useMemo, useReducer, useState } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { Choose } from '../../ui/choose.tsx';
import { Crumbs, PageTitle } from '../../ui/page-title.tsx';
import { getJson } from '../../ui/request.ts';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { isTyping } from '../../ui/is-typing.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { AboutPart } from './about-part.tsx';
import { ConflictDialog } from './conflict-dialog.tsx';
import { DataRows } from './data-rows.tsx';
import { ExportButton } from './export-button.tsx';
import { FieldsCard } from './fields-card.tsx';
import { findOpenFindings, FindingsPart } from './findings-part.tsx';
import { PinnedPart } from './pinned-part.tsx';
import { StepTable } from './step-table.tsx';
import type { DraftEvent, TestDraft } from './test-draft.ts';
import { createDraft, reduceDraft } from './test-draft.ts';
import type { Saving } from './use-saving.ts';
import { useSaving } from './use-saving.ts';

/** What is not looked at is not fetched. */
const CompareView = lazy(() => import('./compare-view.tsx'));
const StepSentences = lazy(() => import('./step-sentences.tsx'));
const TidyDialog = lazy(() => import('./tidy-dialog.tsx'));
const WAITING = <p className="p-4 text-soft">One moment …</p>;

const KEYS = [
  { keys: 'Enter', does: 'Insert a step below' },
  { keys: '↑ ↓', does: 'The same cell of the step above or below' },
  { keys: 'Alt ↑ ↓', does: 'Move the step, or the marked ones' },
  { keys: 'Ctrl D', does: 'Duplicate' },
  { keys: 'Alt Delete', does: 'Take out' },
  { keys: 'Ctrl C, Ctrl V', does: 'Copy marked steps; paste rows of a spreadsheet, or sentences' },
  { keys: 'Ctrl Z', does: 'Undo outside a cell; with Shift redo' },
  { keys: 'Ctrl S', does: 'Save now' },
];

export function TestApp({ content, ...frame }: PageProps<TestDetail>) {
  return (
    <AppFrame {...frame} area="tests" keys={KEYS}>
      <TestEditor test={content} />
    </AppFrame>
  );
}

function TestEditor({ test }: { readonly test: TestDetail }) {
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const [draft, dispatch] = useReducer(reduceDraft, test, createDraft);
  const isNewest = test.version.number === test.versions[0]?.number;
  const canEdit = can('edit tests') && isNewest && test.version.state !== 'retired';
  const saving = useSaving(test, draft, dispatch);
  const { data: around } = useQuery({
    queryKey: ['tests', test.code, 'surroundings'],
    queryFn: () => getJson<TestSurroundings>(`${api}/tests/${test.code}/surroundings`),
  });
  const findings = useMemo(() => findOpenFindings(draft, around), [draft, around]);
  const compared = /^(\d+)-(\d+)$/.exec(address.get('compare') ?? '');
  useUndoKeys(canEdit, dispatch);
  return (
    <>
      <EditorTitle {...{ test, draft, dispatch, saving, canEdit, base }} />
      {compared ? (
        <Suspense fallback={WAITING}>
          <CompareView test={test} before={Number(compared[1])} after={Number(compared[2])} />
        </Suspense>
      ) : (
        <div className="grid gap-4 lg:grid-cols-[206px_minmax(0,1fr)_246px]">
          <div className="grid content-start gap-3">
            <FieldsCard
              title="Needs"
              isNeed
              fields={draft.needs}
              none="Nothing from outside."
              canEdit={canEdit}
              onChange={(field) => dispatch({ kind: 'field', field })}
            />
            <FieldsCard
              title="Gives"
              isNeed={false}
              fields={draft.gives}
              none="Nothing yet. Keep what the next team needs."
              canEdit={canEdit}
              onChange={(field) => dispatch({ kind: 'field', field })}
            />
            <Uses test={test} />
          </div>
          <StepsCard {...{ test, draft, dispatch, saving, canEdit, around, findings }} />
          <SidePanel label="About this test">
            <FindingsPart code={test.code} findings={findings} canEdit={can('edit tests')} />
            <Attempts test={test} />
            {around && <PinnedPart test={test} around={around} />}
            <AboutPart {...{ test, canEdit }} minutes={draft.minutes} onMinutes={(minutes) => dispatch({ kind: 'minutes', minutes })} />
          </SidePanel>
        </div>
      )}
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

interface EditorProps {
  readonly test: TestDetail;
  readonly draft: TestDraft;
  readonly dispatch: (event: DraftEvent) => void;
  readonly saving: Saving;
  readonly canEdit: boolean;
}

function EditorTitle({ test, draft, dispatch, saving, canEdit, base }: EditorProps & { readonly base: string }) {
  const { can } = useProgramme();
  const address = useAddress();
  const [newest, second] = test.versions;
  return (
    <PageTitle
      crumbs={<Crumbs path={test.path} base={base} />}
      title={
        <>
          <span className="mr-2 font-mono font-normal text-soft">{test.code}</span>
          {canEdit ? <NameInput name={draft.name} onChange={(name) => dispatch({ kind: 'name', name })} /> : test.name}
        </>
      }
      about={canEdit && <SaveState draft={draft} saving={saving} />}
    >
      <Choose
        label="Version"
        chosen={String(test.version.number)}
        choices={test.versions.map(({ number, state }) => ({ key: String(number), name: `${number}, ${state}` }))}
        onChoose={(number) => (location.search = `?version=${number}`)}
      />
      {newest && second && (
        <button
          type="button"
          className="button"
          onClick={() => address.set({ compare: address.get('compare') === null ? `${second.number}-${newest.number}` : null })}
        >
          <Columns2 size={17} aria-hidden /> Compare
        </button>
      )}
      <ExportButton codes={() => [test.code]} />
      {canEdit && !saving.isDraft && (
        <button
          type="button"
          className="button button-primary"
          disabled={!draft.isChanged || saving.isBusy}
          onClick={() => void saving.save()}
        >
          Save as a new draft
        </button>
      )}
      {canEdit && saving.isDraft && draft.base.number > 1 && (
        <button type="button" className="button" disabled={draft.isChanged || saving.isBusy} onClick={() => void saving.discard()}>
          Drop the draft
        </button>
      )}
      {canEdit && saving.isDraft && can('agree tests') && (
        <button
          type="button"
          className="button button-primary"
          disabled={draft.isChanged || saving.isBusy}
          onClick={() => void saving.agree()}
        >
          Agree version {draft.base.number}
        </button>
      )}
    </PageTitle>
  );
}

/** Whether what was typed is safe. */
function SaveState({ draft, saving }: Pick<EditorProps, 'draft' | 'saving'>) {
  const text = saving.refusal ?? (!saving.isDraft ? '' : draft.isChanged || saving.isBusy ? 'Saving …' : 'Draft saved');
  return (
    <span role="status" className={saving.refusal === null ? '' : 'font-semibold text-failed'}>
      {text}
    </span>
  );
}

function NameInput({ name, onChange }: { readonly name: string; readonly onChange: (name: string) => void }) {
  return (
    <input
      aria-label="Name of the test"
      className="max-w-full rounded-control border border-transparent bg-transparent px-1 font-bold hover:border-line focus:border-soft"
      size={Math.max(18, Math.min(56, name.length))}
      maxLength={200}
      value={name}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

interface StepsCardProps extends EditorProps {
  readonly around: TestSurroundings | undefined;
  readonly findings: ReturnType<typeof findOpenFindings>;
}

/** The steps, as a table or as sentences, and the data rows below them. */
function StepsCard({ test, draft, dispatch, saving, canEdit, around, findings }: StepsCardProps) {
  const address = useAddress();
  const [isTidying, setIsTidying] = useState(false);
  const isSentences = address.get('steps') === 'sentences';
  const proposals = useMemo(() => proposeTidying(draft.steps).length, [draft.steps]);
  const odd = useMemo(() => new Set(findings.open.filter(({ steps }) => steps.length <= 3).flatMap(({ steps }) => steps)), [findings]);
  const names = [...new Set([...draft.needs, ...draft.gives].map(({ name }) => name)), ...(around?.names ?? [])];
  return (
    <div className="card min-w-0 self-start">
      <div className="flex flex-wrap items-center gap-2 border-b border-line-2 px-3 py-2">
        <Choose
          label="Steps as"
          chosen={isSentences ? 'sentences' : 'table'}
          choices={[
            { key: 'table', name: 'Table' },
            { key: 'sentences', name: 'Sentences' },
          ]}
          onChoose={(key) => address.set({ steps: key === 'sentences' ? key : null }, { replace: true })}
        />
        {canEdit && (
          <>
            <button
              type="button"
              className="button ml-auto"
              disabled={draft.undos.length === 0}
              aria-label="Undo"
              onClick={() => dispatch({ kind: 'undo' })}
            >
              <Undo size={17} aria-hidden />
            </button>
            <button
              type="button"
              className="button"
              disabled={draft.redos.length === 0}
              aria-label="Redo"
              onClick={() => dispatch({ kind: 'redo' })}
            >
              <Redo size={17} aria-hidden />
            </button>
            {proposals > 0 && (
              <button type="button" className="button" onClick={() => setIsTidying(true)}>
                <Sparkles size={17} aria-hidden /> Tidy {proposals}
              </button>
            )}
          </>
        )}
      </div>
      {isSentences ? (
        <Suspense fallback={WAITING}>
          <StepSentences steps={draft.steps} {...{ canEdit, around, names }} onChange={(steps) => dispatch({ kind: 'steps', steps })} />
        </Suspense>
      ) : (
        <StepTable steps={draft.steps} {...{ canEdit, dispatch, odd }} personas={around?.personas ?? []} problems={saving.problems} />
      )}
      <DataRows
        code={test.code}
        rows={draft.rows}
        needs={draft.needs}
        personas={around?.personas ?? []}
        canEdit={canEdit}
        onChange={(rows) => dispatch({ kind: 'rows', rows })}
      />
      {isTidying && (
        <Suspense fallback={null}>
          <TidyDialog
            steps={draft.steps}
            onClose={() => setIsTidying(false)}
            onTidy={(steps, inputs) => dispatch({ kind: 'tidied', steps, inputs })}
          />
        </Suspense>
      )}
    </div>
  );
}

function Uses({ test }: { readonly test: TestDetail }) {
  const { base } = useProgramme();
  return (
    <section className="card px-3.5 py-3" aria-label="Used as a leg in">
      <h2 className="mb-1.5">Used as a leg in</h2>
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
    </section>
  );
}

function Attempts({ test }: { readonly test: TestDetail }) {
  const { base } = useProgramme();
  return (
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
  );
}

/** In a cell the browser's own undo holds; outside of one, the draft's. */
function useUndoKeys(canEdit: boolean, dispatch: (event: DraftEvent) => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!canEdit || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTyping(event.target)) return;
      event.preventDefault();
      dispatch({ kind: event.shiftKey ? 'redo' : 'undo' });
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [canEdit, dispatch]);
}
