import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import { COLUMNS } from './outline-columns.ts';

interface OutlineInputProps {
  readonly depth: number;
  readonly code: string;
  readonly initial: string;
  /** The typed name, null when it was given up; `isGoingOn` asks for the next one below. */
  readonly onDone: (name: string | null, isGoingOn: boolean) => void;
}

/** A row while its name is typed: Enter keeps it (a new one goes on with the next), Esc gives it up, leaving keeps it. */
export function OutlineInput({ depth, code, initial, onDone }: OutlineInputProps) {
  const isDone = useRef(false);
  const finish = (name: string | null, isGoingOn: boolean) => {
    if (isDone.current) return;
    isDone.current = true;
    const typed = name?.replace(/\s+/g, ' ').trim() ?? '';
    onDone(typed === '' ? null : typed, isGoingOn && typed !== '');
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    if (event.key === 'Enter') finish(event.currentTarget.value, initial === '');
    else if (event.key === 'Escape') finish(null, false);
    else return;
    event.preventDefault();
  };
  return (
    <div className={`${COLUMNS} h-full border-b border-line-2 bg-baton-tint px-4`}>
      <span className="truncate font-mono text-[13px] text-baton-ink opacity-80">{code || 'new'}</span>
      <span className="col-span-3 flex min-w-0 items-center" style={{ paddingLeft: depth * 20 + 22 }}>
        <input
          className="field min-h-[28px]! py-0!"
          aria-label={initial === '' ? 'Name of the new node' : `Name of ${code}`}
          maxLength={200}
          defaultValue={initial}
          // eslint-disable-next-line jsx-a11y/no-autofocus -- the person has just asked to type here
          autoFocus
          onFocus={(event) => event.currentTarget.select()}
          onKeyDown={onKeyDown}
          onPaste={(event) => event.stopPropagation()}
          onBlur={(event) => finish(event.currentTarget.value, false)}
        />
      </span>
    </div>
  );
}
