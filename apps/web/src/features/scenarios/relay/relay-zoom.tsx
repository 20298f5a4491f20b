import Minus from 'lucide-react/icons/minus';
import Plus from 'lucide-react/icons/plus';
import type { RefObject } from 'react';
import { useState } from 'react';

const SCALES = [0.3, 0.4, 0.5, 0.65, 0.8, 1, 1.25, 1.5] as const;

export interface Zoom {
  readonly scale: number;
  readonly step: (by: -1 | 1) => void;
  readonly fit: () => void;
}

export function useZoom(frame: RefObject<HTMLElement | null>, width: number): Zoom {
  const [scale, setScale] = useState(1);
  const step = (by: -1 | 1) => {
    const next = by > 0 ? SCALES.find((each) => each > scale + 0.01) : SCALES.findLast((each) => each < scale - 0.01);
    if (next !== undefined) setScale(next);
  };
  const fit = () => setScale(Math.max(SCALES[0], Math.min(1, (frame.current?.clientWidth ?? width) / width)));
  return { scale, step, fit };
}

/** Smaller, larger, all of it. */
export function RelayZoom({ zoom }: { readonly zoom: Zoom }) {
  const look = 'button button-quiet button-small min-h-[26px] px-1.5!';
  return (
    <div role="group" aria-label="Size of the relay" className="no-print mt-1 flex items-center justify-end">
      <button type="button" className={look} aria-label="Smaller" onClick={() => zoom.step(-1)}>
        <Minus size={14} aria-hidden />
      </button>
      <button type="button" className={`${look} tabular-nums`} title="Fit all legs in" onClick={zoom.fit}>
        {Math.round(zoom.scale * 100)}%
      </button>
      <button type="button" className={look} aria-label="Larger" onClick={() => zoom.step(1)}>
        <Plus size={14} aria-hidden />
      </button>
    </div>
  );
}
