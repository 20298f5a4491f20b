import { FIELD_TYPES, FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { Field, FieldType } from '@kindred-baton/core/values/field';

interface FieldsCardProps {
  readonly title: string;
  readonly fields: readonly Field[];
  readonly none: string;
  readonly canEdit: boolean;
  /** Whether these come from outside: then they may be left out or have to be there. */
  readonly isNeed: boolean;
  readonly onChange: (field: Field) => void;
}

/** Needs or gives: found in the steps, their types confirmed here. */
export function FieldsCard({ title, fields, none, canEdit, isNeed, onChange }: FieldsCardProps) {
  return (
    <section className="card px-3.5 py-3" aria-label={title}>
      <h2 className="mb-2">{title}</h2>
      {fields.length === 0 && <p className="text-[13px] text-soft">{none}</p>}
      <ul className="grid gap-2">
        {fields.map((field) => (
          <li key={field.name}>
            {canEdit ? <EditableField field={field} isNeed={isNeed} onChange={onChange} /> : <FieldChip field={field} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function describeType({ type, choices, pattern }: Field): string {
  if (type === 'choice' && choices && choices.length > 0) return choices.join(', ');
  return type === 'code' && pattern ? pattern : FIELD_TYPE_LABELS[type];
}

function FieldChip({ field }: { readonly field: Field }) {
  return (
    <span className="baton-chip" title={describeType(field)}>
      {field.name}{' '}
      <span className="truncate opacity-80">
        {describeType(field)}
        {field.required === false ? ', if any' : ''}
      </span>
    </span>
  );
}

interface EditableFieldProps {
  readonly field: Field;
  readonly isNeed: boolean;
  readonly onChange: (field: Field) => void;
}

function EditableField({ field, isNeed, onChange }: EditableFieldProps) {
  const details =
    field.type === 'choice'
      ? {
          label: 'values, separated by ;',
          value: (field.choices ?? []).join('; '),
          set: (text: string) => ({
            ...field,
            choices: text
              .split(';')
              .map((choice) => choice.trim())
              .filter((choice) => choice !== ''),
          }),
        }
      : field.type === 'code'
        ? { label: 'pattern, such as AA-9999', value: field.pattern ?? '', set: (text: string) => ({ ...field, pattern: text }) }
        : null;
  return (
    <details className="group">
      <summary className="list-none rounded-full">
        <FieldChip field={field} />
      </summary>
      <div className="mt-1.5 grid gap-1.5 pl-2">
        <select
          className="field"
          aria-label={`Type of ${field.name}`}
          value={field.type}
          onChange={(event) => onChange({ ...field, type: event.target.value as FieldType })}
        >
          {FIELD_TYPES.map((type) => (
            <option key={type} value={type}>
              {FIELD_TYPE_LABELS[type]}
            </option>
          ))}
        </select>
        {details && (
          <input
            className="field"
            aria-label={`${field.name}: ${details.label}`}
            placeholder={details.label}
            defaultValue={details.value}
            onBlur={(event) => onChange(details.set(event.target.value))}
          />
        )}
        <input
          className="field"
          aria-label={`Example of ${field.name}`}
          placeholder="an example"
          defaultValue={field.example ?? ''}
          onBlur={(event) => onChange({ ...field, example: event.target.value })}
        />
        {isNeed && (
          <label className="flex min-h-[26px] items-center gap-2 text-[13px]">
            <input
              type="checkbox"
              checked={field.required !== false}
              onChange={(event) => onChange({ ...field, required: event.target.checked })}
            />
            has to be there
          </label>
        )}
      </div>
    </details>
  );
}
