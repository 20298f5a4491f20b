import type { Step } from '@kindred-baton/core/tests/step';
import Copy from 'lucide-react/icons/copy';
import Trash2 from 'lucide-react/icons/trash-2';
import { useId } from 'react';

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

/** What a step seldom says: where the thing is, who does it, whether it may be left out. */
export function StepMore({ step, personas, onChange, onDuplicate, onRemove }: StepMoreProps) {
  const list = useId();
  return (
    <tr>
      <td colSpan={7} className="bg-band">
        <div className="flex flex-wrap items-end gap-3 pl-8">
          {PARTS.map(({ key, label }) => (
            <label key={key} className="text-[13px]">
              {label}
              <input
                className="field mt-0.5"
                list={key === 'as' ? list : undefined}
                value={step[key] ?? ''}
                onChange={(event) => onChange({ [key]: event.target.value || undefined })}
              />
            </label>
          ))}
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
