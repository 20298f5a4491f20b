import { useRead } from '../../client/use-read.ts';
import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import { lazy, Suspense, useEffect, useMemo, useReducer } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { isTyping } from '../../ui/is-typing.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { AboutPart } from './about-part.tsx';
import { FieldsCard } from './fields-card.tsx';
import { findOpenFindings, FindingsPart } from './findings-part.tsx';
import { EditorTitle } from './editor-title.tsx';
import { StepsCard } from './steps/steps-card.tsx';
import type { DraftEvent } from './test-draft.ts';
import { createDraft, reduceDraft } from './test-draft.ts';
import { useSaving } from './use-saving.ts';

/** What is not looked at is not fetched. */
const CompareView = lazy(() => import('./compare-view.tsx'));
const PinnedPart = lazy(() => import('./pinned-part.tsx'));
const AgreeDialog = lazy(() => import('./agree-dialog.tsx'));
const ConflictDialog = lazy(() => import('./conflict-dialog.tsx'));

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
  const { base, can } = useProgramme();
  const address = useAddress();
  const [draft, dispatch] = useReducer(reduceDraft, test, createDraft);
  const isNewest = test.version.number === test.versions[0]?.number;
  const canEdit = can('edit tests') && isNewest && test.version.state !== 'retired';
  const saving = useSaving(test, draft, dispatch);
  const { data: around } = useRead('getTestSurroundings', { params: { code: test.code } });
  useEffect(() => {
    if (around) dispatch({ kind: 'elsewhere', fields: around.fields });
  }, [around]);
  const findings = useMemo(() => findOpenFindings(draft, around), [draft, around]);
  const compared = /^(\d+)-(\d+)$/.exec(address.get('compare') ?? '');
  useUndoKeys(canEdit, dispatch);
  return (
    <>
      <EditorTitle {...{ test, draft, dispatch, saving, canEdit, base }} />
      {compared ? (
        <Suspense fallback={<p className="p-4 text-soft">One moment …</p>}>
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
            {around && (
              <Suspense fallback={null}>
                <PinnedPart test={test} around={around} />
              </Suspense>
            )}
            <AboutPart {...{ test, canEdit }} minutes={draft.minutes} onMinutes={(minutes) => dispatch({ kind: 'minutes', minutes })} />
          </SidePanel>
        </div>
      )}
      {saving.broken && (
        <Suspense fallback={null}>
          <AgreeDialog
            test={test.code}
            version={draft.base.number}
            broken={saving.broken}
            onAgree={() => void saving.agree(true)}
            onClose={saving.forgetBroken}
          />
        </Suspense>
      )}
      {saving.conflict && (
        <Suspense fallback={null}>
          <ConflictDialog
            theirs={saving.conflict}
            mine={draft}
            onTakeTheirs={() => location.reload()}
            onKeepMine={() => {
              dispatch({ kind: 'rebase', base: { number: saving.conflict?.number ?? 0, revision: saving.conflict?.revision ?? 0 } });
              saving.forgetConflict();
            }}
          />
        </Suspense>
      )}
    </>
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
