import type { RefObject } from 'react';
import { useEffect, useRef, useState } from 'react';
import type { Frame, LineStands, WindowState } from './use-window.ts';

interface LiveScreenProps {
  readonly state: WindowState;
  /** Frames come through here, past React. */
  readonly showRef: RefObject<(frame: Frame) => void>;
  /** What is seen, in words. */
  readonly label: string;
}

const WORDS: Readonly<Record<LineStands, string>> = {
  connecting: 'Opening the window …',
  live: 'The runner opens its browser …',
  away: 'Nobody shows this turn just now. It comes back by itself.',
  over: 'The attempt has ended.',
  refused: 'You cannot look at this any more, or too many do already.',
};

/** A runner's browser as it is now, with the place outlined that the step under way uses. */
export function LiveScreen({ state, showRef, label }: LiveScreenProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [about, setAbout] = useState<Frame['about'] | null>(null);
  useEffect(() => {
    showRef.current = ({ about: next, image }) => {
      const board = canvas.current;
      if (!board) return;
      if (board.width !== image.width || board.height !== image.height) Object.assign(board, { width: image.width, height: image.height });
      board.getContext('2d')?.drawImage(image, 0, 0);
      image.close();
      setAbout((before) => (before && isSame(before, next) ? before : next));
    };
  }, [showRef]);
  const place = state.stands === 'live' ? state.at?.place : null;
  return (
    <div className="relative overflow-hidden bg-band" style={{ aspectRatio: about ? `${about.width} / ${about.height}` : '16 / 10' }}>
      <canvas ref={canvas} className={`block h-full w-full ${about ? '' : 'invisible'}`} role="img" aria-label={label} />
      {about && place && <Outline about={about} place={place} step={state.at?.step ?? 0} />}
      {(!about || state.stands !== 'live') && (
        <p className="absolute inset-x-0 top-1/2 -translate-y-1/2 px-4 text-center" role="status">
          <span className="rounded-control bg-sheet px-3 py-2 shadow-float">{WORDS[state.stands]}</span>
        </p>
      )}
    </div>
  );
}

const isSame = (a: Frame['about'], b: Frame['about']) =>
  a.width === b.width && a.height === b.height && a.scrollX === b.scrollX && a.scrollY === b.scrollY;

interface OutlineProps {
  readonly about: Frame['about'];
  readonly place: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly step: number;
}

const share = (length: number, of: number) => `${(100 * length) / of}%`;

/** The place stands on the page; what is seen of the page is scrolled. */
function Outline({ about, place, step }: OutlineProps) {
  return (
    <span
      className="pointer-events-none absolute rounded-[5px] border-[3px] border-baton"
      style={{
        left: share(place.x - about.scrollX - 4, about.width),
        top: share(place.y - about.scrollY - 4, about.height),
        width: share(place.width + 8, about.width),
        height: share(place.height + 8, about.height),
      }}
      aria-hidden
    >
      <span className="absolute -top-3 -left-3 grid h-5 min-w-5 place-items-center rounded-full bg-baton px-1 text-[11px] font-bold text-ink">
        {step + 1}
      </span>
    </span>
  );
}
