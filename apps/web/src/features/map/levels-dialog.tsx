import { useChanges } from '../../client/use-changes.ts';
import type { MapView } from '@kindred-baton/contracts/map/node';
import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';

const FEWEST = 2;
const MOST = 6;

/** The programme’s own level names, two to six, and how the nodes of each level are numbered. */
export function LevelsDialog({ view, onClose }: { readonly view: MapView; readonly onClose: () => void }) {
  const changes = useChanges();
  const [levels, setLevels] = useState(() =>
    view.levels.map((name, depth) => ({ name, pattern: view.codeScheme[depth] ?? view.codeScheme.at(-1) ?? '{parent}.9' })),
  );
  const form = useForm(async () => {
    await changes.change('changeLevels', {
      input: { levels: levels.map(({ name }) => name), codeScheme: levels.map(({ pattern }) => pattern) },
    });
    onClose();
  });
  const change = (at: number, next: Partial<(typeof levels)[number]>) =>
    setLevels((list) => list.map((level, index) => (index === at ? { ...level, ...next } : level)));
  return (
    <DialogBox title="Levels of the map" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <table className="grid-table mb-2">
          <thead>
            <tr>
              <th scope="col">Level</th>
              <th scope="col">Name</th>
              <th scope="col">Code</th>
              <th scope="col">
                <span className="sr-only">Take away</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {levels.map(({ name, pattern }, at) => (
              <LevelRow
                key={at}
                at={at}
                level={{ name, pattern }}
                onChange={(next) => change(at, next)}
                onRemove={levels.length <= FEWEST ? null : () => setLevels((list) => list.filter((_, index) => index !== at))}
              />
            ))}
          </tbody>
        </table>
        <button
          type="button"
          className="button button-small"
          disabled={levels.length >= MOST}
          onClick={() => setLevels((list) => [...list, { name: `level ${list.length + 1}`, pattern: '{parent}.9' }])}
        >
          <Plus size={15} aria-hidden /> One more level
        </button>
        <p className="hint my-3">
          In a code, {'{parent}'} is the code above, {'{initials}'} the first letters of the name, 9 the next free number (99: two digits).
          Codes that are given stay as they are.
        </p>
        <FormFoot form={form} label="Save" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}

interface Level {
  readonly name: string;
  readonly pattern: string;
}

interface LevelRowProps {
  readonly at: number;
  readonly level: Level;
  readonly onChange: (next: Partial<Level>) => void;
  /** null: no level can go any more. */
  readonly onRemove: (() => void) | null;
}

function LevelRow({ at, level: { name, pattern }, onChange, onRemove }: LevelRowProps) {
  return (
    <tr>
      <td>{at + 1}</td>
      <td>
        <input
          className="field"
          aria-label={`Name of level ${at + 1}`}
          required
          maxLength={40}
          value={name}
          onChange={(event) => onChange({ name: event.target.value })}
        />
      </td>
      <td>
        <input
          className="field font-mono"
          aria-label={`Code of level ${at + 1}`}
          required
          maxLength={40}
          value={pattern}
          onChange={(event) => onChange({ pattern: event.target.value })}
        />
      </td>
      <td>
        <button
          type="button"
          className="button button-quiet button-small"
          aria-label={`Take level ${at + 1} away`}
          disabled={onRemove === null}
          onClick={() => onRemove?.()}
        >
          <X size={15} aria-hidden />
        </button>
      </td>
    </tr>
  );
}
