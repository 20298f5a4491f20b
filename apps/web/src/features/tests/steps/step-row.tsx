import { getCheckFacts } from '@kindred-baton/core/tests/step-checks';
import { STEP_ACTIONS, getActionFacts } from '@kindred-baton/core/tests/step';
import type { Step, StepAction } from '@kindred-baton/core/tests/step';
import Ellipsis from 'lucide-react/icons/ellipsis';
import type { MouseEvent } from 'react';
import { TemplateText } from './template-text.tsx';

interface StepRowProps {
  readonly step: Step;
  readonly index: number;
  readonly problem: string | undefined;
  readonly isOpen: boolean;
  readonly isMarked: boolean;
  /** Something about it is worth a look. */
  readonly isOdd: boolean;
  readonly onChange: (change: Partial<Step>) => void;
  readonly onMark: (event: MouseEvent) => void;
  readonly onMore: () => void;
}

const PLACEHOLDERS: Readonly<Partial<Record<StepAction, string>>> = {
  hand: 'what people do, in their own words',
  ask: 'GET /path, or select …',
};

/** Grows with what is typed, where the browser can. */
const GROWING = 'field-sizing-content resize-none align-middle';
const CELL = 'w-full rounded-control border border-transparent bg-transparent px-2 py-1 hover:border-line focus:border-soft';

/** A step whose cells are its controls. */
export function StepRow({ step, index, problem, isOpen, isMarked, isOdd, onChange, onMark, onMore }: StepRowProps) {
  const number = index + 1;
  const isByHand = step.do === 'hand';
  return (
    <tr data-step={index} className={isMarked ? 'bg-baton-tint' : ''}>
      <td className="px-1! py-1!">
        <button
          type="button"
          aria-label={`Mark step ${number}`}
          aria-pressed={isMarked}
          className={`min-h-[28px] min-w-[28px] rounded-control font-mono text-[13px] hover:bg-band ${isOdd ? 'font-bold underline decoration-baton decoration-2 underline-offset-4' : 'text-soft'}`}
          onClick={onMark}
        >
          {number}
        </button>
      </td>
      <td className="px-1! py-1!">
        <ActionChoice step={step} index={index} onChange={onChange} />
      </td>
      <td className="px-1! py-1!" colSpan={isByHand ? 2 : 1}>
        <textarea
          rows={1}
          aria-label={`Step ${number}: on`}
          aria-invalid={problem !== undefined}
          className={`${CELL} ${GROWING} min-w-[130px] ${isByHand ? '' : 'font-semibold'}`}
          placeholder={PLACEHOLDERS[step.do] ?? 'the thing’s name'}
          value={step.target}
          onChange={(event) => onChange({ target: event.target.value.replace(/\n/g, ' ') })}
        />
        <StepRemarks step={step} problem={problem} />
      </td>
      {!isByHand && (
        <td className="px-1! py-1!">
          <TemplateCell
            label={`Step ${number}: with`}
            look="min-w-[110px] font-mono text-[13px]"
            template={step.value ?? ''}
            onChange={(value) => onChange({ value })}
          />
        </td>
      )}
      <td className="px-1! py-1!">
        <TemplateCell
          label={`Step ${number}: you should see`}
          look="min-w-[140px]"
          template={step.expect ?? ''}
          onChange={(expect) => onChange({ expect })}
        />
      </td>
      <td className="px-1! py-1!">
        <input
          aria-label={`Step ${number}: keep as`}
          className={`${CELL} min-w-[96px] ${step.keepAs ? 'rounded-full! bg-baton-tint! text-baton-ink' : ''}`}
          value={step.keepAs ?? ''}
          onChange={(event) => onChange({ keepAs: event.target.value || undefined })}
        />
      </td>
      <td className="px-1! py-1!">
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

interface TemplateCellProps {
  readonly label: string;
  readonly look: string;
  readonly template: string;
  readonly onChange: (template: string) => void;
}

/** A cell of text and values: values are chips, and have their braces only while they are typed. */
function TemplateCell({ label, look, template, onChange }: TemplateCellProps) {
  const hasPlace = template.includes('{');
  return (
    <div className="relative">
      <textarea
        rows={1}
        aria-label={label}
        className={`peer ${CELL} ${GROWING} ${look} ${hasPlace ? 'not-focus:text-transparent' : ''}`}
        value={template}
        title={template}
        onChange={(event) => onChange(event.target.value)}
      />
      {hasPlace && (
        <div aria-hidden className={`pointer-events-none absolute inset-0 overflow-hidden px-2 py-1 peer-focus:hidden ${look}`}>
          <TemplateText template={template} isPlain />
        </div>
      )}
    </div>
  );
}

/** A step to read. */
export function ReadStepRow({ step, index }: { readonly step: Step; readonly index: number }) {
  return (
    <tr data-step={index}>
      <td className="font-mono text-[13px] text-soft">{index + 1}</td>
      <td className="whitespace-nowrap">{getActionFacts(step.do).word}</td>
      <td>
        {step.do === 'hand' ? step.target : <b>{step.target}</b>}
        {step.within !== undefined && ` in ${step.within}`}
        {step.beside !== undefined && ` beside ${step.beside}`}
        {step.as !== undefined && <span className="text-soft"> as {step.as}</span>}
        {step.optional && <span className="tag ml-2">may be left out</span>}
      </td>
      <td>
        {step.check !== undefined && <span className="text-soft">{getCheckFacts(step.check).label} </span>}
        <TemplateText template={step.value ?? ''} />
        {step.seconds !== undefined && <span className="text-soft"> within {step.seconds} s</span>}
      </td>
      <td className="text-[13px]">
        <TemplateText template={step.expect ?? ''} isPlain />
      </td>
      <td>{step.keepAs !== undefined && <span className="baton-chip">{step.keepAs}</span>}</td>
    </tr>
  );
}

/** Where the thing stands, who does it, and what is wrong, under its name. */
function StepRemarks({ step, problem }: Pick<StepRowProps, 'step' | 'problem'>) {
  const remarks = [
    step.within && `in ${step.within}`,
    step.beside && `beside ${step.beside}`,
    step.as && `as ${step.as}`,
    step.check && getCheckFacts(step.check).label,
    step.seconds && `within ${step.seconds} s`,
  ].filter(Boolean);
  return (
    <>
      {remarks.length > 0 && <span className="block px-2 text-[13px] text-soft">{remarks.join(' · ')}</span>}
      {step.optional && <span className="tag mx-2">may be left out</span>}
      {problem !== undefined && <span className="block px-2 text-[13px] font-semibold text-failed">{problem}</span>}
    </>
  );
}

function ActionChoice({ step, index, onChange }: Pick<StepRowProps, 'step' | 'index' | 'onChange'>) {
  return (
    <select
      aria-label={`Step ${index + 1}: do`}
      className={`${CELL} min-w-[84px]`}
      value={step.do}
      onChange={(event) => onChange({ do: event.target.value as StepAction })}
    >
      {STEP_ACTIONS.map((action) => (
        <option key={action} value={action}>
          {getActionFacts(action).word}
        </option>
      ))}
    </select>
  );
}
