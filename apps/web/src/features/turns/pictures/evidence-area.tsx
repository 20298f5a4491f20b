import type { EvidenceView } from '@kindred-baton/contracts/common';
import Camera from 'lucide-react/icons/camera';
import Paperclip from 'lucide-react/icons/paperclip';
import Pencil from 'lucide-react/icons/pencil';
import X from 'lucide-react/icons/x';
import type { ClipboardEvent, DragEvent } from 'react';
import { lazy, Suspense, useEffect, useId, useRef, useState } from 'react';
import { isTyping } from '../../../ui/is-typing.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { getBlob, toMessage } from '../../../client/request.ts';
import { getWord } from '../guide/guide-state.ts';
import { useGuideWindow } from '../guide/guide-window.tsx';
import { takePicture } from './take-picture.ts';
import type { AttemptRecorder } from '../guide/use-attempt.ts';

const PictureEditor = lazy(() => import('./picture-editor.tsx').then((module) => ({ default: module.PictureEditor })));

interface EvidenceAreaProps {
  readonly recorder: AttemptRecorder;
  readonly index: number;
  /** After “It did not” or “I cannot go on”, words are asked for. */
  readonly isNeeded: boolean;
  /** The cycle asks for one at this step. */
  readonly isPictureAsked: boolean;
  readonly evidence: readonly EvidenceView[];
}

interface Drawn {
  readonly picture: Blob;
  readonly name: string;
  /** The kept picture that it takes the place of. */
  readonly replaces: string | null;
}

const KINDS = 'image/png,image/jpeg,image/webp,image/gif,application/pdf';

/** What was seen: words, and pictures that are pasted, dropped or chosen. */
export function EvidenceArea({ recorder, index, isNeeded, isPictureAsked, evidence }: EvidenceAreaProps) {
  const { api } = useProgramme();
  const notify = useNotice();
  const id = useId();
  const [isOver, setIsOver] = useState(false);
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const word = getWord(recorder.state, index);
  const attach = async (files: readonly File[]) => {
    for (const file of files)
      await recorder.attach(index, file).catch((error: unknown) => notify({ kind: 'problem', text: toMessage(error) }));
  };
  usePastedFiles((files) => void attach(files));
  const say = (error: unknown) => notify({ kind: 'problem', text: toMessage(error) });
  const take = async () => {
    const picture = await takePicture().catch(say);
    if (picture) setDrawn({ picture, name: picture.name, replaces: null });
  };
  const draw = async (file: EvidenceView) => {
    const picture = await getBlob(`${api}/evidence/${file.id}`).catch(say);
    if (picture) setDrawn({ picture, name: file.name, replaces: file.id });
  };
  /** The picture as it was goes away: what was blurred in it must not stay. */
  const replace = async (picture: File, before: string | null) => {
    await recorder.attach(index, picture);
    if (before !== null) await recorder.dropPicture(before);
  };
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
        onChange={(event) => recorder.type(index, { note: event.target.value })}
        onPaste={(event: ClipboardEvent) => {
          const files = [...event.clipboardData.files];
          if (files.length === 0) return;
          event.preventDefault();
          void attach(files);
        }}
      />
      {isPictureAsked && evidence.length === 0 && <p className="text-[13px] font-semibold">This cycle asks for a picture here.</p>}
      <div className="flex flex-wrap items-center gap-2">
        {evidence.map((file) => (
          <KeptFile key={file.id} file={file} onDraw={() => void draw(file)} onDrop={() => void recorder.dropPicture(file.id).catch(say)} />
        ))}
        <AddPictures onFiles={(files) => void attach(files)} onTake={() => void take()} />
      </div>
      {drawn && (
        <Suspense fallback={<p className="text-[13px] text-soft">One moment …</p>}>
          <PictureEditor
            picture={drawn.picture}
            name={drawn.name}
            onClose={() => setDrawn(null)}
            onKeep={(picture) => replace(picture, drawn.replaces)}
          />
        </Suspense>
      )}
    </div>
  );
}

interface KeptFileProps {
  readonly file: EvidenceView;
  readonly onDraw: () => void;
  readonly onDrop: () => void;
}

/** Until the attempt is finished it can be drawn on, and taken out again. */
function KeptFile({ file, onDraw, onDrop }: KeptFileProps) {
  const { api } = useProgramme();
  const isPicture = file.mediaType.startsWith('image/');
  return (
    <span className="flex items-center gap-1">
      <a href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer" className="block" title={file.name}>
        {isPicture ? (
          <img src={`${api}/evidence/${file.id}`} alt={file.name} className="h-12 rounded border border-line object-cover" />
        ) : (
          <span className="underline">{file.name}</span>
        )}
      </a>
      {isPicture && file.mediaType !== 'image/gif' && (
        <button type="button" className="button button-quiet button-small" aria-label={`Draw on ${file.name}`} onClick={onDraw}>
          <Pencil size={14} aria-hidden />
        </button>
      )}
      <button type="button" className="button button-quiet button-small" aria-label={`Take out ${file.name}`} onClick={onDrop}>
        <X size={14} aria-hidden />
      </button>
    </span>
  );
}

/** A picture pasted anywhere on the page belongs to this step; in a field it is that field's. */
function usePastedFiles(attach: (files: readonly File[]) => void): void {
  const view = useGuideWindow();
  useEffect(() => {
    const onPaste = (event: globalThis.ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length > 0 && !isTyping(event.target)) attach(files);
    };
    view?.addEventListener('paste', onPaste);
    return () => view?.removeEventListener('paste', onPaste);
  });
}

interface AddPicturesProps {
  readonly onFiles: (files: readonly File[]) => void;
  readonly onTake: () => void;
}

function AddPictures({ onFiles, onTake }: AddPicturesProps) {
  const choose = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className="button button-quiet button-small" onClick={() => choose.current?.click()}>
        <Paperclip size={14} aria-hidden /> Add a picture
      </button>
      <button type="button" className="button button-quiet button-small" onClick={onTake}>
        <Camera size={14} aria-hidden /> Take one of a window
      </button>
      <input
        ref={choose}
        type="file"
        accept={KINDS}
        multiple
        hidden
        aria-label="Choose pictures"
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
    </>
  );
}
