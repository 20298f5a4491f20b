import type { ReactNode } from 'react';
import { useRef } from 'react';

interface FileButtonProps {
  /** What the file is, for who does not see the button. */
  readonly label: string;
  readonly accept: string;
  readonly isSmall?: boolean;
  readonly onChoose: (file: File) => void;
  readonly children: ReactNode;
}

/** A button that asks for a file; the same file can be chosen again. */
export function FileButton({ label, accept, isSmall = false, onChoose, children }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className={isSmall ? 'button button-small' : 'button'} onClick={() => input.current?.click()}>
        {children}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={label}
        accept={accept}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onChoose(file);
          event.target.value = '';
        }}
      />
    </>
  );
}
