import { getCheckFacts, MOST_SECONDS, STEP_CHECKS } from '@kindred-baton/core/tests/step-checks';
import type { Step } from '@kindred-baton/core/tests/step';
import Copy from 'lucide-react/icons/copy';
import Trash2 from 'lucide-react/icons/trash-2';
import { useId } from 'react';
import { useRead } from '../../../client/use-read.ts';

interface StepMoreProps {
  readonly step: Step;
  readonly personas: readonly string[];
  readonly onChange: (change: Partial<Step>) => void;
  readonly onDuplicate: () => void;
  readonly onRemove: () => void;
}

const PARTS = [
  { key: 'within', label: 'In' },
  { key: 'beside', label: 'Beside' },
  { key: 'as', label: 'As (persona)' },
] as const;

/** What a step seldom says: where the thing is, who does it, what is checked otherwise, whether it may be left out. */
export function StepMore({ step, personas, onChange, onDuplicate, onRemove }: StepMoreProps) {
  const list = useId();
  const doors = useId();
  return (
    <tr>
      <td colSpan={7} className="bg-band">
        <div className="flex flex-wrap items-end gap-3 pl-8">
          {PARTS.map(({ key, label }) => (
            <label key={key} className="text-[13px]">
              {key === 'within' && step.do === 'ask' ? 'Door' : label}
              <input
                className="field mt-0.5"
                list={key === 'as' ? list : key === 'within' && step.do === 'ask' ? doors : undefined}
                value={step[key] ?? ''}
                onChange={(event) => onChange({ [key]: event.target.value || undefined })}
              />
            </label>
          ))}
          {(step.do === 'see' || step.do === 'wait') && <CheckFields step={step} onChange={onChange} />}
          {step.do === 'ask' && <DoorNames id={doors} />}
          <datalist id={list}>
            {personas.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
          <label className="flex h-[34px] items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              checked={step.optional === true}
              onChange={(event) => onChange({ optional: event.target.checked || undefined })}
            />
            may be left out
          </label>
          <button type="button" className="button button-small" onClick={onDuplicate}>
            <Copy size={14} aria-hidden /> Duplicate
          </button>
          <button type="button" className="button button-small" onClick={onRemove}>
            <Trash2 size={14} aria-hidden /> Take this step out
          </button>
        </div>
      </td>
    </tr>
  );
}

/** The doors that a step may name, each once. */
function DoorNames({ id }: { readonly id: string }) {
  const { data } = useRead('listDoors', {});
  return (
    <datalist id={id}>
      {[...new Set(data?.doors.map(({ name }) => name))].map((name) => (
        <option key={name} value={name} />
      ))}
    </datalist>
  );
}

/** What is said of the thing, and how long it may take until it holds. */
function CheckFields({ step, onChange }: Pick<StepMoreProps, 'step' | 'onChange'>) {
  return (
    <>
      <label className="text-[13px]">
        Check
        <select
          className="field mt-0.5"
          value={step.check ?? ''}
          onChange={(event) => onChange({ check: STEP_CHECKS.find((check) => check === event.target.value) })}
        >
          <option value="">{step.value ? 'shows' : 'is there'}</option>
          {STEP_CHECKS.map((check) => (
            <option key={check} value={check}>
              {getCheckFacts(check).label}
            </option>
          ))}
        </select>
      </label>
      <label className="text-[13px]">
        Within, seconds
        <input
          className="field mt-0.5 block w-[90px]"
          inputMode="numeric"
          value={step.seconds ?? ''}
          onChange={(event) => onChange({ seconds: toSeconds(event.target.value) })}
        />
      </label>
    </>
  );
}

function toSeconds(typed: string): number | undefined {
  const seconds = Number(typed.replace(/\D/g, ''));
  return seconds > 0 ? Math.min(seconds, MOST_SECONDS) : undefined;
}
