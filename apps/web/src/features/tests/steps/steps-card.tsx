import type { TestSurroundings } from '@kindred-baton/contracts/tests/test';
import { proposeTidying } from '@kindred-baton/core/tests/tidy/rules';
import Sparkles from 'lucide-react/icons/brush-cleaning';
import Redo from 'lucide-react/icons/redo-2';
import Undo from 'lucide-react/icons/undo-2';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Choose } from '../../../ui/menus/choose.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { DataRows } from '../data-rows.tsx';
import type { EditorProps } from '../editor-props.ts';
import type { OpenFindings } from '../findings-part.tsx';
import { TrialLine, useTrial } from '../trial/trial-part.tsx';
import { TryIt } from '../trial/try-it.tsx';
import { StepTable } from './step-table.tsx';

/** What is not looked at is not fetched. */
const StepSentences = lazy(() => import('./step-sentences.tsx'));
const TidyDialog = lazy(() => import('./tidy-dialog.tsx'));

interface StepsCardProps extends EditorProps {
  readonly around: TestSurroundings | undefined;
  readonly findings: OpenFindings;
}

/** The steps, as a table or as sentences, and the data rows below them. */
export function StepsCard({ test, draft, dispatch, saving, canEdit, around, findings }: StepsCardProps) {
  const address = useAddress();
  const { can } = useProgramme();
  const trial = useTrial();
  const isSentences = address.get('steps') === 'sentences';
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
        {can('edit tests') && draft.steps.length > 0 && <TryIt {...{ test, draft }} />}
        {canEdit && <EditButtons {...{ draft, dispatch }} />}
      </div>
      {trial && <TrialLine trial={trial} />}
      {isSentences ? (
        <Suspense fallback={<p className="p-4 text-soft">One moment …</p>}>
          <StepSentences
            steps={draft.steps}
            {...{ canEdit, around, names }}
            onChange={(steps) => dispatch({ kind: 'steps', steps, isTyped: true })}
          />
        </Suspense>
      ) : (
        <StepTable
          steps={draft.steps}
          {...{ canEdit, dispatch, odd, trial }}
          personas={around?.personas ?? []}
          problems={saving.problems}
        />
      )}
      <DataRows
        code={test.code}
        rows={draft.rows}
        needs={draft.needs}
        personas={around?.personas ?? []}
        canEdit={canEdit}
        onChange={(rows) => dispatch({ kind: 'rows', rows })}
      />
    </div>
  );
}

/** Undo, redo, and what could be tidied. */
function EditButtons({ draft, dispatch }: Pick<EditorProps, 'draft' | 'dispatch'>) {
  const [isTidying, setIsTidying] = useState(false);
  const proposals = useMemo(() => proposeTidying(draft.steps).length, [draft.steps]);
  return (
    <>
      <button
        type="button"
        className="button"
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
      {isTidying && (
        <Suspense fallback={null}>
          <TidyDialog
            steps={draft.steps}
            onClose={() => setIsTidying(false)}
            onTidy={(steps, inputs) => dispatch({ kind: 'tidied', steps, inputs })}
          />
        </Suspense>
      )}
    </>
  );
}
