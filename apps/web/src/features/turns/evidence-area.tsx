import type { EvidenceView } from '@kindred-baton/contracts/turns/turn';
import Paperclip from 'lucide-react/icons/paperclip';
import type { ClipboardEvent, DragEvent } from 'react';
import { useEffect, useId, useRef, useState } from 'react';
import { isTyping } from '../../ui/is-typing.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { toMessage } from '../../ui/request.ts';
import { getWord } from './guide-state.ts';
import type { AttemptInHand } from './use-attempt.ts';

interface EvidenceAreaProps {
  readonly hand: AttemptInHand;
  readonly index: number;
  /** After “It did not” or “I cannot go on”, words are asked for. */
  readonly isNeeded: boolean;
  readonly evidence: readonly EvidenceView[];
}

const KINDS = 'image/png,image/jpeg,image/webp,image/gif,application/pdf';

/** What was seen: words, and pictures that are pasted, dropped or chosen. */
export function EvidenceArea({ hand, index, isNeeded, evidence }: EvidenceAreaProps) {
  const { api } = useProgramme();
  const notify = useNotice();
  const id = useId();
  const choose = useRef<HTMLInputElement>(null);
  const [isOver, setIsOver] = useState(false);
  const word = getWord(hand.state, index);
  const attach = async (files: readonly File[]) => {
    for (const file of files) await hand.attach(index, file).catch((error: unknown) => notify({ kind: 'problem', text: toMessage(error) }));
  };
  usePastedFiles((files) => void attach(files));
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setIsOver(false);
    void attach([...event.dataTransfer.files]);
  };
  return (
    <div
      className={`mt-4 rounded-card border px-3 py-2 ${isOver ? 'border-baton-wire bg-baton-tint' : isNeeded && word.note === '' ? 'border-failed' : 'border-line'}`}
      onDragOver={(event) => {
        event.preventDefault();
        setIsOver(true);
      }}
      onDragLeave={() => setIsOver(false)}
      onDrop={drop}
    >
      <label htmlFor={id} className="text-[13px] text-soft">
        {isNeeded ? 'What did you see?' : 'What you saw (optional)'}
      </label>
      <textarea
        id={id}
        rows={2}
        className="w-full resize-y bg-transparent outline-none"
        placeholder="Type, or paste a picture with Ctrl V"
        value={word.note}
        onChange={(event) => hand.dispatch({ kind: 'change', index, word: { note: event.target.value } })}
        onBlur={() => word.note !== '' && hand.record(index, word)}
        onPaste={(event: ClipboardEvent) => {
          const files = [...event.clipboardData.files];
          if (files.length === 0) return;
          event.preventDefault();
          void attach(files);
        }}
      />
      <div className="flex flex-wrap items-center gap-2">
        {evidence.map((file) => (
          <a key={file.id} href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer" className="block" title={file.name}>
            {file.mediaType.startsWith('image/') ? (
              <img src={`${api}/evidence/${file.id}`} alt={file.name} className="h-12 rounded border border-line object-cover" />
            ) : (
              <span className="underline">{file.name}</span>
            )}
          </a>
        ))}
        <button type="button" className="button button-quiet button-small" onClick={() => choose.current?.click()}>
          <Paperclip size={14} aria-hidden /> Add a picture
        </button>
        <input
          ref={choose}
          type="file"
          accept={KINDS}
          multiple
          hidden
          aria-label="Choose pictures"
          onChange={(event) => void attach([...(event.target.files ?? [])])}
        />
      </div>
    </div>
  );
}

/** A picture pasted anywhere on the page belongs to this step; in a field it is that field's. */
function usePastedFiles(attach: (files: readonly File[]) => void): void {
  useEffect(() => {
    const onPaste = (event: globalThis.ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length > 0 && !isTyping(event.target)) attach(files);
    };
    addEventListener('paste', onPaste);
    return () => removeEventListener('paste', onPaste);
  });
}
