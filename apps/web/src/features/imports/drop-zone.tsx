import FileUp from 'lucide-react/icons/file-up';
import type { DragEvent } from 'react';
import { useRef, useState } from 'react';

interface DropZoneProps {
  readonly isBusy: boolean;
  readonly name: string | null;
  readonly says: string;
  readonly accept: string;
  readonly onChoose: (file: File) => void;
  readonly onStop: () => void;
}

/** Takes a file by a button or by letting it go here. */
export function DropZone({ isBusy, name, says, accept, onChoose, onStop }: DropZoneProps) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setIsOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setIsOver(false);
    const file = event.dataTransfer.files[0];
    if (file) onChoose(file);
  };
  return (
    <div
      className={`card border-dashed px-6 text-center ${name === null ? 'py-12' : 'py-3'} ${isOver ? 'border-baton-wire bg-baton-tint' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setIsOver(true);
      }}
      onDragLeave={() => setIsOver(false)}
      onDrop={drop}
    >
      <button type="button" className="button" disabled={isBusy} onClick={() => input.current?.click()}>
        <FileUp size={17} aria-hidden /> {isBusy ? `Reading ${name ?? ''} …` : name === null ? 'Choose a file' : 'Choose another file'}
      </button>
      {isBusy && (
        <button type="button" className="button ml-2" onClick={onStop}>
          Stop
        </button>
      )}
      <p className="mt-2 text-[13px] text-soft">{name ?? `or drop it here. ${says}`}</p>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="File"
        accept={accept}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onChoose(file);
          event.target.value = '';
        }}
      />
    </div>
  );
}
