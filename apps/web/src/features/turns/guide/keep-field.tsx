import { createExample } from '@kindred-baton/core/values/create-example';
import type { Field } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { KeyboardEvent } from 'react';
import { SelectField, TextField } from '../../../ui/field.tsx';

interface KeepFieldProps {
  readonly field: Field;
  readonly value: string;
  readonly problem: string | null;
  readonly onChange: (value: string) => void;
  readonly onEnter: () => void;
}

/** The value that the next team depends on: typed in, and checked by its type before it goes on. */
export function KeepField({ field, value, problem, onChange, onEnter }: KeepFieldProps) {
  const label = `Type the ${field.name} that you see`;
  // Where nobody wrote an example, one is made from the pattern.
  const example = field.type === 'code' && field.pattern ? createExample(field) : (field.example ?? '');
  const hint = `${field.type === 'code' && field.pattern ? 'Looks like' : FIELD_TYPE_LABELS[field.type]}${example === '' ? '' : ` ${field.type === 'code' ? '' : 'such as '}${example}`}. It goes on to the next team.`;
  const shared = { label, hint: hint[0]?.toUpperCase() + hint.slice(1), problem: problem ?? undefined };
  return (
    <div className="mt-4 rounded-card border border-baton-line bg-baton-tint px-3 pt-2 text-baton-ink [&_.hint]:text-baton-ink">
      {field.type === 'choice' && field.choices ? (
        <SelectField {...shared} value={value} onChange={(event) => onChange(event.target.value)}>
          <option value="">choose</option>
          {field.choices.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </SelectField>
      ) : (
        <TextField
          {...shared}
          value={value}
          autoComplete="off"
          spellCheck={false}
          inputMode={field.type === 'whole' ? 'numeric' : field.type === 'number' || field.type === 'money' ? 'decimal' : 'text'}
          placeholder={field.type === 'date' ? 'YYYY-MM-DD' : ''}
          className="field font-mono"
          onChange={(event) => onChange(event.target.value)}
          onKeyDown={(event: KeyboardEvent) => event.key === 'Enter' && onEnter()}
        />
      )}
    </div>
  );
}
