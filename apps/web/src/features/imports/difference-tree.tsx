import type { MapDifferenceLine } from '@kindred-baton/contracts/imports/import';
import type { MapChangeKind } from '@kindred-baton/core/imports/compare-map';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';

interface DifferenceTreeProps {
  readonly differences: readonly MapDifferenceLine[];
  readonly more: number;
  /** Branches that stay as they are. */
  readonly leftOut?: readonly string[];
  /** Without it, all of it is taken in or nothing. */
  readonly onLeaveOut?: (codes: readonly string[]) => void;
}

const LABELS: Readonly<Record<MapChangeKind, { readonly word: string; readonly sign: string; readonly look: string }>> = {
  new: { word: 'new', sign: '+', look: 'bg-baton-tint text-baton-ink border-baton-line' },
  changed: { word: 'changed', sign: '≠', look: 'bg-band text-ink border-line' },
  moved: { word: 'moved', sign: '→', look: 'bg-band text-ink border-line' },
  same: { word: 'same', sign: '', look: 'text-soft border-transparent' },
  missing: { word: 'not in the file', sign: '−', look: 'text-soft border-line border-dashed' },
};

const ROW_PX = 34;
const ALL_TAKEN: readonly string[] = [];

/** What would change, as the branches it lies in; a branch that is not ticked stays as it is. */
export function DifferenceTree({ differences, more, leftOut = ALL_TAKEN, onLeaveOut }: DifferenceTreeProps) {
  const frame = useRef<HTMLDivElement>(null);
  const out = useMemo(() => spread(differences, leftOut), [differences, leftOut]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: differences.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  if (differences.length === 0) return null;
  const toggle = (code: string) => onLeaveOut?.(leftOut.includes(code) ? leftOut.filter((each) => each !== code) : [...leftOut, code]);
  return (
    <section className="card" aria-label="Differences">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys */}
      <div ref={frame} className="max-h-[min(560px,60vh)] overflow-auto" tabIndex={0} role="list" aria-label="What would change">
        <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="presentation">
          {rows.getVirtualItems().map(({ index, start }) => {
            const line = differences[index];
            if (!line) return null;
            const isOut = out.has(line.code);
            const isHeldOut = isOut && !leftOut.includes(line.code);
            return (
              <div
                key={line.code}
                role="listitem"
                className={`absolute inset-x-0 flex items-center gap-3 border-b border-line-2 px-4 ${isOut ? 'opacity-50' : ''}`}
                style={{ top: start, height: ROW_PX }}
              >
                {onLeaveOut && (
                  <input
                    type="checkbox"
                    aria-label={`Take ${line.code} and its branch in`}
                    checked={!isOut}
                    disabled={isHeldOut}
                    onChange={() => toggle(line.code)}
                  />
                )}
                <span className="w-[78px] flex-none truncate font-mono text-[13px] text-soft">{line.code}</span>
                <span
                  className={`min-w-0 truncate ${line.kind === 'same' ? 'text-soft' : 'font-semibold'}`}
                  style={{ paddingLeft: line.depth * 18 }}
                >
                  {line.name}
                </span>
                <Kind kind={line.kind} />
                <span className="min-w-0 flex-1 truncate text-[13px] text-soft" title={describe(line)}>
                  {describe(line)}
                </span>
              </div>
            );
          })}
        </div>
      </div>
      {more > 0 && <p className="px-4 py-2 text-[13px] text-soft">and {more.toLocaleString('en')} more, which are taken in too</p>}
    </section>
  );
}

function Kind({ kind }: { readonly kind: MapChangeKind }) {
  const { word, sign, look } = LABELS[kind];
  return <span className={`flex-none rounded-[5px] border px-1.5 text-[12px] ${look}`}>{sign === '' ? word : `${sign} ${word}`}</span>;
}

function describe({ kind, parent, parentBefore, changes }: MapDifferenceLine): string {
  const moved = kind === 'moved' ? [`from ${parentBefore ?? 'the top'} to ${parent ?? 'the top'}`] : [];
  return [...moved, ...changes.map(({ field, before, after }) => `${field}: ${before || 'nothing'} → ${after || 'nothing'}`)].join(' · ');
}

/** The branches left out, with all that lies in them. */
function spread(differences: readonly MapDifferenceLine[], leftOut: readonly string[]): ReadonlySet<string> {
  const out = new Set(leftOut);
  for (const { code, parent } of differences) if (parent !== null && out.has(parent)) out.add(code);
  return out;
}
