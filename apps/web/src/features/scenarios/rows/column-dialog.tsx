import type { Field, FieldType } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS, FIELD_TYPES } from '@kindred-baton/core/values/field';
import { DialogBox } from '../../../ui/dialog.tsx';
import { SelectField, TextField } from '../../../ui/field.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

interface ColumnDialogProps {
  readonly editor: ScenarioEditor;
  readonly column: Field | 'new' | null;
  readonly onClose: () => void;
}

/** A column of the data rows: its name, its type, what may stand in it. Renamed, its values and wires go with it. */
export function ColumnDialog({ editor, column, onClose }: ColumnDialogProps) {
  const before = column === 'new' || column === null ? null : column;
  const save = (form: FormData) => {
    const text = (name: string) => String(form.get(name) ?? '').trim();
    const choices = text('choices')
      .split(',')
      .flatMap((choice) => (choice.trim() === '' ? [] : [choice.trim()]));
    const next: Field = {
      ...{ name: text('name'), type: text('type') as FieldType, required: before?.required ?? true },
      ...(choices.length > 0 ? { choices } : {}),
      ...(text('pattern') === '' ? {} : { pattern: text('pattern') }),
      ...(before?.example === undefined ? {} : { example: before.example }),
    };
    onClose();
    void editor.run([
      before ? { kind: 'change column', column: before.name, change: next } : { kind: 'add column', column: next, before: null },
    ]);
  };
  return (
    <DialogBox title={before ? `Column ${before.name}` : 'New column'} isOpen={column !== null} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save(new FormData(event.currentTarget));
        }}
      >
        <TextField
          label="Name"
          name="name"
          required
          maxLength={100}
          defaultValue={before?.name ?? ''}
          hint="As the legs need it, such as: Pipe length"
        />
        <SelectField label="Type" name="type" defaultValue={before?.type ?? 'text'}>
          {FIELD_TYPES.map((type) => (
            <option key={type} value={type}>
              {FIELD_TYPE_LABELS[type]}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Choices"
          name="choices"
          defaultValue={before?.choices?.join(', ') ?? ''}
          hint="For one of a list, with commas between them"
        />
        <TextField
          label="Pattern"
          name="pattern"
          defaultValue={before?.pattern ?? ''}
          hint="For a code: A letter, 9 digit, anything else itself"
        />
        <div className="flex justify-end gap-2">
          {before && (
            <button
              type="button"
              className="button mr-auto"
              onClick={() => {
                onClose();
                void editor.run([{ kind: 'remove column', column: before.name }]);
              }}
            >
              Take the column out
            </button>
          )}
          <button type="button" className="button" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="button button-primary">
            {before ? 'Keep' : 'Add the column'}
          </button>
        </div>
      </form>
    </DialogBox>
  );
}
