interface PagesProps {
  /** What is paged: “Runs”. */
  readonly noun: string;
  /** Places of the first and last entry of this page, from 0. */
  readonly from: number;
  readonly to: number;
  readonly size: number;
  readonly onBefore: () => void;
  readonly onNext: () => void;
}

/** Which page an address names; what is no number is the first. */
export const readPage = (text: string | null): number => Math.max(1, Math.trunc(Number(text)) || 1);

/** From page to page of what is too long to be drawn at once; nothing where it is all there. */
export function Pages({ noun, from, to, size, onBefore, onNext }: PagesProps) {
  if (from === 0 && to + 1 >= size) return null;
  return (
    <nav aria-label={`Pages: ${noun}`} className="mt-2 flex flex-wrap items-center gap-2 text-[13px] text-soft">
      <button type="button" className="button button-small" disabled={from === 0} onClick={onBefore}>
        Before
      </button>
      <span>
        {noun} {(from + 1).toLocaleString('en')} to {(to + 1).toLocaleString('en')} of {size.toLocaleString('en')}
      </span>
      <button type="button" className="button button-small" disabled={to + 1 >= size} onClick={onNext}>
        Next
      </button>
    </nav>
  );
}
