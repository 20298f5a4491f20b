import type { TestSurroundings } from '@kindred-baton/contracts/tests/test';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { readPlainSentence } from '@kindred-baton/core/tests/read-plain-sentence';
import type { Step } from '@kindred-baton/core/tests/step';
import { useMemo, useState } from 'react';
import { countOf } from '../../../ui/format.ts';
import { SentenceEditor } from './sentence-editor.tsx';

interface StepSentencesProps {
  readonly steps: readonly Step[];
  readonly canEdit: boolean;
  readonly names: readonly string[];
  readonly around: TestSurroundings | undefined;
  readonly onChange: (steps: readonly Step[]) => void;
}

/** The same steps as sentences, one a line: ordinary words are understood, what is not is a step by hand. */
export default function StepSentences({ steps, canEdit, names, around, onChange }: StepSentencesProps) {
  const [text, setText] = useState(() => steps.map(printStep).join('\n'));
  const readings = useMemo(() => text.split('\n').map(readPlainSentence), [text]);
  const uniform = readings.flatMap((reading) => reading.steps.map(printStep)).join('\n');
  const printed = steps.map(printStep).join('\n');
  // What is undone or tidied comes from outside; what is typed here is what the steps were read from.
  const [laid, setLaid] = useState(printed);
  if (laid !== printed) {
    setLaid(printed);
    if (printed !== uniform) setText(printed);
  }
  const byHand = readings.filter(({ isUnderstood }) => !isUnderstood).length;
  const change = (next: string) => {
    setText(next);
    onChange(next.split('\n').flatMap((line) => readPlainSentence(line).steps));
  };
  return (
    <div className="p-3">
      <SentenceEditor
        {...{ text, canEdit }}
        targets={around?.targets ?? []}
        personas={around?.personas ?? []}
        names={names}
        onChange={change}
      />
      <p className="mt-2 flex min-h-[30px] flex-wrap items-center gap-x-4 text-[13px] text-soft">
        {byHand > 0 ? (
          <span role="status" className="font-semibold text-ink">
            {countOf(byHand, 'line')} not understood: {byHand === 1 ? 'it stays' : 'they stay'} as {byHand === 1 ? 'a step' : 'steps'} by
            hand.
          </span>
        ) : (
          <span role="status">Every line is understood.</span>
        )}
        {canEdit && uniform !== text && (
          <button type="button" className="button button-small" onClick={() => change(uniform)}>
            Write them all alike
          </button>
        )}
      </p>
    </div>
  );
}
