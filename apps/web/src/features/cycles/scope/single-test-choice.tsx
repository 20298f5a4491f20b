import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import { keepPreviousData } from '@tanstack/react-query';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { DialogBox } from '../../../ui/dialog.tsx';
import { formatMinutes } from '../../../ui/format.ts';

interface SingleTestChoiceProps {
  readonly onChoose: (scenario: CycleScope['scenarios'][number]) => void;
}

/** Takes a test into a cycle by itself: a run of one leg for each of its own data rows. */
export function SingleTestChoice({ onChoose }: SingleTestChoiceProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        A single test …
      </button>
      <DialogBox title="Take a single test in" isOpen={isOpen} onClose={() => setOpen(false)}>
        <TestSearch
          onChoose={(scenario) => {
            setOpen(false);
            onChoose(scenario);
          }}
        />
      </DialogBox>
    </>
  );
}

const SHOWN = 8;

function TestSearch({ onChoose }: SingleTestChoiceProps) {
  const { act } = useChanges();
  const [words, setWords] = useState('');
  const { data } = useRead('listTests', { input: { q: words, state: 'agreed' } }, { placeholderData: keepPreviousData });
  const choose = async (test: string) => {
    const scenario = await act('chooseSingleTest', { input: { test } });
    if (scenario) onChoose(scenario);
  };
  return (
    <>
      <input
        type="search"
        className="field mb-2"
        aria-label="Search tests"
        placeholder="Code or words"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && event.preventDefault()}
      />
      <ul className="grid gap-1">
        {data?.tests.slice(0, SHOWN).map(({ code, name, minutes }) => (
          <li key={code}>
            <button type="button" className="w-full rounded-control px-2 py-1.5 text-left hover:bg-band" onClick={() => void choose(code)}>
              <b>{name}</b>
              <span className="block text-[13px] text-soft">
                <span className="font-mono">{code}</span> · {formatMinutes(minutes)}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {data?.tests.length === 0 && <p className="text-soft">No agreed test is called so.</p>}
      {data && data.tests.length > SHOWN && <p className="hint mt-1">The first {SHOWN}; type more of its name.</p>}
    </>
  );
}
