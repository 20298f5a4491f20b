import type { Problem } from '@kindred-baton/contracts/errors';
import { STEP_ACTIONS, STEP_ACTION_WORDS } from '@kindred-baton/core/tests/step';
import type { Step, StepAction } from '@kindred-baton/core/tests/step';
import { parseTemplate } from '@kindred-baton/core/values/template';
import Ellipsis from 'lucide-react/icons/ellipsis';
import Plus from 'lucide-react/icons/plus';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import { Fragment, useRef, useState } from 'react';
import { useNotice } from '../../ui/notices.tsx';
import { pasteSteps } from './paste-steps.ts';
import { StepMore } from './step-more.tsx';
import type { DraftEvent } from './test-draft.ts';
import { EMPTY_STEP } from './test-draft.ts';

interface StepTableProps {
  readonly steps: readonly Step[];
  readonly canEdit: boolean;
  readonly problems: readonly Problem[];
  readonly dispatch: (event: DraftEvent) => void;
}

const HEADS = ['', 'Do', 'On', 'With', 'You should see', 'Keep as'];

/** The steps as a table; every key of the table works on the row that has the focus. */
export function StepTable({ steps, canEdit, problems, dispatch }: StepTableProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const notify = useNotice();
  const [open, setOpen] = useState<number | null>(null);
  const focus = (index: number) => setTimeout(() => body.current?.querySelector<HTMLElement>(`[data-step="${index}"] input`)?.focus());
  const insert = (index: number) => {
    dispatch({ kind: 'insert', index, steps: [EMPTY_STEP] });
    focus(index);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const index = Number((event.target as HTMLElement).closest<HTMLElement>('[data-step]')?.dataset['step']);
    if (!canEdit || Number.isNaN(index)) return;
    if (event.key === 'Enter' && ['INPUT', 'TEXTAREA'].includes((event.target as HTMLElement).tagName) && !event.shiftKey) {
      event.preventDefault();
      insert(index + 1);
    } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      const by = event.key === 'ArrowUp' ? -1 : 1;
      if (index + by < 0 || index + by >= steps.length) return;
      dispatch({ kind: 'move', index, by });
      focus(index + by);
    } else if (event.altKey && event.key === 'Delete') {
      dispatch({ kind: 'remove', index });
      focus(Math.max(0, index - 1));
    }
  };
  const onPaste = (event: ClipboardEvent) => {
    const index = Number((event.target as HTMLElement).closest<HTMLElement>('[data-step]')?.dataset['step'] ?? steps.length);
    const pasted = canEdit ? pasteSteps(event.clipboardData.getData('text/plain')) : null;
    if (!pasted) return;
    event.preventDefault();
    const isEmpty = steps[index]?.target === '';
    if (isEmpty) dispatch({ kind: 'remove', index });
    dispatch({ kind: 'insert', index: isEmpty ? index : index + 1, steps: pasted.steps });
    if (pasted.refused.length > 0)
      notify({ kind: 'problem', text: `Not understood as a step: ${pasted.refused.join(' / ').slice(0, 200)}` });
  };
  return (
    <div className="overflow-x-auto px-2">
      {/* The cells are the controls; the table hears their keys. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <table className="grid-table" onKeyDown={onKeyDown} onPaste={onPaste}>
        <thead>
          <tr>
            {HEADS.map((head) => (
              <th key={head} scope="col">
                {head === '' ? <span className="sr-only">Number</span> : head}
              </th>
            ))}
            {canEdit && (
              <th scope="col">
                <span className="sr-only">More</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody ref={body}>
          {steps.map((step, index) => (
            <Fragment key={index}>
              <StepRow
                step={step}
                index={index}
                canEdit={canEdit}
                problem={problems.find(({ path }) => path.startsWith(`steps.${index}.`))?.message}
                onChange={(change) => dispatch({ kind: 'step', index, change })}
                onMore={() => setOpen(open === index ? null : index)}
                isOpen={open === index}
              />
              {open === index && canEdit && (
                <StepMore
                  step={step}
                  onChange={(change) => dispatch({ kind: 'step', index, change })}
                  onRemove={() => dispatch({ kind: 'remove', index })}
                />
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      {canEdit && (
        <button type="button" className="button button-quiet my-2 text-soft" onClick={() => insert(steps.length)} onPaste={onPaste}>
          <Plus size={16} aria-hidden /> Add a step, or paste rows of a spreadsheet
        </button>
      )}
      {!canEdit && steps.length === 0 && <p className="px-3 py-8 text-center text-soft">No steps yet.</p>}
    </div>
  );
}

interface StepRowProps {
  readonly step: Step;
  readonly index: number;
  readonly canEdit: boolean;
  readonly problem: string | undefined;
  readonly isOpen: boolean;
  readonly onChange: (change: Partial<Step>) => void;
  readonly onMore: () => void;
}

/** Grows with what is typed, where the browser can. */
const GROWING = 'field-sizing-content resize-none align-middle';
const CELL = 'w-full rounded-control border border-transparent bg-transparent px-2 py-1 hover:border-line focus:border-soft';

function StepRow({ step, index, canEdit, problem, isOpen, onChange, onMore }: StepRowProps) {
  if (!canEdit) return <ReadRow step={step} index={index} />;
  const number = index + 1;
  return (
    <tr data-step={index}>
      <td className="font-mono text-[13px] text-soft">{number}</td>
      <td className="px-1!">
        <select
          aria-label={`Step ${number}: do`}
          className={`${CELL} min-w-[84px]`}
          value={step.do}
          onChange={(event) => onChange({ do: event.target.value as StepAction })}
        >
          {STEP_ACTIONS.map((action) => (
            <option key={action} value={action}>
              {STEP_ACTION_WORDS[action]}
            </option>
          ))}
        </select>
      </td>
      <td className="px-1!">
        <input
          aria-label={`Step ${number}: on`}
          aria-invalid={problem !== undefined}
          className={`${CELL} min-w-[130px] font-semibold`}
          placeholder="the thing’s name"
          value={step.target}
          onChange={(event) => onChange({ target: event.target.value })}
        />
        {step.within !== undefined && <span className="block px-2 text-[13px] text-soft">in {step.within}</span>}
        {problem !== undefined && <span className="block px-2 text-[13px] font-semibold text-failed">{problem}</span>}
      </td>
      <td className="px-1!">
        <textarea
          rows={1}
          aria-label={`Step ${number}: with`}
          className={`${CELL} ${GROWING} min-w-[120px] font-mono text-[13px] ${(step.value ?? '').startsWith('{') ? 'rounded-full! bg-baton-tint! text-baton-ink' : ''}`}
          value={step.value ?? ''}
          onChange={(event) => onChange({ value: event.target.value })}
        />
      </td>
      <td className="px-1!">
        <textarea
          rows={1}
          aria-label={`Step ${number}: you should see`}
          className={`${CELL} ${GROWING} min-w-[150px]`}
          value={step.expect ?? ''}
          title={step.expect}
          onChange={(event) => onChange({ expect: event.target.value })}
        />
      </td>
      <td className="px-1!">
        <input
          aria-label={`Step ${number}: keep as`}
          className={`${CELL} min-w-[100px] ${step.keepAs ? 'rounded-full! bg-baton-tint! text-baton-ink' : ''}`}
          value={step.keepAs ?? ''}
          onChange={(event) => onChange({ keepAs: event.target.value || undefined })}
        />
      </td>
      <td className="px-1!">
        <button
          type="button"
          className="button button-quiet button-small"
          aria-label={`More of step ${number}`}
          aria-expanded={isOpen}
          onClick={onMore}
        >
          <Ellipsis size={16} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

function ReadRow({ step, index }: { readonly step: Step; readonly index: number }) {
  return (
    <tr>
      <td className="font-mono text-[13px] text-soft">{index + 1}</td>
      <td className="whitespace-nowrap">{STEP_ACTION_WORDS[step.do]}</td>
      <td>
        <b>{step.target}</b>
        {step.within !== undefined && ` in ${step.within}`}
        {step.beside !== undefined && ` beside ${step.beside}`}
        {step.optional && <span className="tag ml-2">optional</span>}
      </td>
      <td>
        <TemplateText template={step.value ?? ''} />
      </td>
      <td className="text-[13px]">
        <TemplateText template={step.expect ?? ''} isPlain />
      </td>
      <td>{step.keepAs !== undefined && <span className="baton-chip">{step.keepAs}</span>}</td>
    </tr>
  );
}

/** A template with its names as chips. */
function TemplateText({ template, isPlain = false }: { readonly template: string; readonly isPlain?: boolean }) {
  return (
    <>
      {parseTemplate(template).map((part, index) =>
        part.kind === 'name' ? (
          <span key={index} className="baton-chip">
            {part.name}
          </span>
        ) : (
          <span key={index} className={isPlain ? '' : 'font-mono text-[13px]'}>
            {part.kind === 'text'
              ? part.text
              : part.kind === 'new'
                ? `new ${part.pattern}`
                : `today ${part.offset < 0 ? '−' : '+'} ${Math.abs(part.offset)} ${part.working ? 'working ' : ''}days`}
          </span>
        ),
      )}
    </>
  );
}
