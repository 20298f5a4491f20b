import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import { useState } from 'react';

interface StepSentencesProps {
  readonly steps: readonly Step[];
  readonly canEdit: boolean;
  readonly onChange: (steps: readonly Step[]) => void;
}

/** The same steps as sentences, one a line. What is not understood stays as typed, and is told. */
export function StepSentences({ steps, canEdit, onChange }: StepSentencesProps) {
  const [text, setText] = useState(() => steps.map(printStep).join('\n'));
  const readings = text.split('\n').map((line, index) => ({ line: index + 1, isEmpty: line.trim() === '', reading: parseStep(line) }));
  const wrong = readings.flatMap(({ line, isEmpty, reading }) => (isEmpty || reading.ok ? [] : [{ line, message: reading.message }]));
  const change = (next: string) => {
    setText(next);
    const parsed = next
      .split('\n')
      .filter((line) => line.trim() !== '')
      .map(parseStep);
    if (parsed.every((reading) => reading.ok)) onChange(parsed.flatMap((reading) => (reading.ok ? [reading.step] : [])));
  };
  return (
    <div className="p-3">
      <textarea
        aria-label="Steps as sentences, one a line"
        className="field min-h-[360px] font-mono text-[13px] leading-6"
        readOnly={!canEdit}
        spellCheck={false}
        value={text}
        onChange={(event) => change(event.target.value)}
      />
      {wrong.length > 0 && (
        <ul role="alert" className="mt-2 grid gap-1 text-[13px] font-semibold text-failed">
          {wrong.map(({ line, message }) => (
            <li key={line}>
              Line {line}: {message}
            </li>
          ))}
          <li className="font-normal text-soft">The table keeps the steps as they were until every line is understood.</li>
        </ul>
      )}
    </div>
  );
}
