import { useRead } from '../../client/use-read.ts';
import type { FoundItem } from '@kindred-baton/contracts/find/find';
import { keepPreviousData } from '@tanstack/react-query';
import Search from 'lucide-react/icons/search';
import type { KeyboardEvent } from 'react';
import { useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';

const KIND_WORDS: Readonly<Record<FoundItem['kind'], string>> = {
  node: 'Node',
  test: 'Test',
  scenario: 'Scenario',
  turn: 'Turn',
  cycle: 'Cycle',
  defect: 'Defect',
};

/** The words, and what has them. */
export function FindBox() {
  const { base } = useProgramme();
  const [words, setWords] = useState('');
  const [at, setAt] = useState(0);
  const asked = { enabled: words.trim() !== '', placeholderData: keepPreviousData };
  const { data, isFetching } = useRead('findAnything', { input: { q: words.trim() } }, asked);
  const found = words.trim() === '' ? [] : (data?.found ?? []);
  const go = (item: FoundItem | undefined) => item && (location.href = `${base}${item.path}`);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      setAt((place) => Math.min(Math.max(0, place + (event.key === 'ArrowDown' ? 1 : -1)), Math.max(0, found.length - 1)));
    } else if (event.key === 'Enter') go(found[at]);
  };
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
          onChange={(event) => {
            setWords(event.target.value);
            setAt(0);
          }}
          onKeyDown={onKeyDown}
        />
      </div>
      <ul id="found" role="listbox" aria-label="Found" className="max-h-[50vh] overflow-auto p-1">
        {found.map((item, index) => (
          <li key={`${item.kind} ${item.path}`} id={`found-${index}`} role="option" aria-selected={index === at}>
            <a
              href={`${base}${item.path}`}
              tabIndex={-1}
              className={`flex items-baseline gap-3 rounded-control px-3 py-1.5 ${index === at ? 'bg-baton-tint text-baton-ink' : 'hover:bg-band'}`}
            >
              <span className="w-[64px] flex-none text-[12px] opacity-80">{KIND_WORDS[item.kind]}</span>
              <span className="flex-none font-mono text-[13px]">{item.code}</span>
              <span className="truncate font-semibold">{item.name}</span>
              <span className="ml-auto truncate text-[13px] opacity-80">{item.context}</span>
            </a>
          </li>
        ))}
      </ul>
      {words.trim() !== '' && found.length === 0 && (
        <p className="px-4 pb-4 text-soft">{isFetching ? 'Looking …' : 'Nothing has that code or those words.'}</p>
      )}
    </>
  );
}
