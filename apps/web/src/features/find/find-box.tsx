import { leaveTo } from '../../client/leave-to.ts';
import { useRead } from '../../client/use-read.ts';
import type { FoundItem } from '@kindred-baton/contracts/find/find';
import { keepPreviousData } from '@tanstack/react-query';
import Search from 'lucide-react/icons/search';
import type { KeyboardEvent } from 'react';
import { useEffect, useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';
import { chooseFound, placeOfChoice, walkFound } from './found-choice.ts';

const KIND_LABELS: Readonly<Record<FoundItem['kind'], string>> = {
  value: 'In the baton',
  node: 'Node',
  test: 'Test',
  scenario: 'Scenario',
  turn: 'Turn',
  cycle: 'Cycle',
  defect: 'Defect',
};

/** The words as they are typed, what has them, and where Enter leads. */
function useFind() {
  const { base } = useProgramme();
  const [words, setWords] = useState('');
  const [walkedTo, setWalkedTo] = useState<string | null>(null);
  const [isWaiting, setIsWaiting] = useState(false);
  const isAsked = words.trim() !== '';
  const asked = { enabled: isAsked, placeholderData: keepPreviousData };
  const { data, isFetching, isError, isPlaceholderData } = useRead('findAnything', { input: { q: words.trim() } }, asked);
  const found = isAsked ? (data?.found ?? []) : [];
  const isStale = isAsked && !isError && (isPlaceholderData || data === undefined);
  const state = { found, walkedTo, isStale };
  const choice = chooseFound(state);
  const goTo = isWaiting && choice !== null && choice !== 'wait' ? `${base}${choice.path}` : null;
  useEffect(() => {
    if (goTo !== null) leaveTo(goTo);
  }, [goTo]);
  return {
    found,
    at: placeOfChoice(state),
    words,
    isLooking: isFetching || isStale,
    isError,
    isStale,
    type: (typed: string) => {
      setWords(typed);
      setWalkedTo(null);
      setIsWaiting(false);
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        event.preventDefault();
        setWalkedTo(walkFound(state, event.key === 'ArrowDown' ? 1 : -1));
        setIsWaiting(false);
      } else if (event.key === 'Enter') setIsWaiting(true);
    },
  };
}

/** The words, and what has them. */
export function FindBox() {
  const { base } = useProgramme();
  const { found, at, words, isLooking, isStale, isError, type, onKeyDown } = useFind();
  return (
    <>
      <div className="flex items-center gap-3 border-b border-line-2 px-4">
        <Search size={18} aria-hidden className="text-soft" />
        <input
          // The dialog is opened to type in it.
          autoFocus // eslint-disable-line jsx-a11y/no-autofocus
          role="combobox"
          aria-label="Find a node, test, scenario, turn, cycle or defect"
          aria-expanded={found.length > 0}
          aria-controls="found"
          aria-activedescendant={found[at] ? `found-${at}` : undefined}
          className="h-12 w-full bg-transparent text-[16px] outline-none"
          placeholder="A code, or some words"
          value={words}
          maxLength={100}
          onChange={(event) => type(event.target.value)}
          onKeyDown={onKeyDown}
        />
      </div>
      <ul id="found" role="listbox" aria-label="Found" aria-busy={isStale} className="max-h-[50vh] overflow-auto p-1">
        {found.map((item, index) => (
          <li key={`${item.kind} ${item.path}`} id={`found-${index}`} role="option" aria-selected={index === at}>
            <a
              href={`${base}${item.path}`}
              tabIndex={-1}
              className={`flex items-baseline gap-3 rounded-control px-3 py-1.5 ${index === at ? 'bg-baton-tint text-baton-ink' : 'hover:bg-band'}`}
            >
              <span className="w-[64px] flex-none text-[12px] opacity-80">{KIND_LABELS[item.kind]}</span>
              <span className="flex-none font-mono text-[13px]">{item.code}</span>
              <span className="truncate font-semibold">{item.name}</span>
              <span className="ml-auto truncate text-[13px] opacity-80">{item.context}</span>
            </a>
          </li>
        ))}
      </ul>
      {words.trim() !== '' && found.length === 0 && (
        <p role="status" className="px-4 py-3 text-soft">
          {isLooking
            ? 'Looking …'
            : isError
              ? 'It could not be looked for. Type on to try again.'
              : 'Nothing has that code or those words.'}
        </p>
      )}
    </>
  );
}
