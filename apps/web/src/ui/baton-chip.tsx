import Copy from 'lucide-react/icons/copy';
import { useCopy } from './use-copy.ts';

interface BatonChipProps {
  readonly name?: string;
  readonly value: string;
  /** A value that has come can be copied with a click. */
  readonly canCopy?: boolean;
  readonly size?: 'small' | 'large';
}

/** A travelling value wherever it occurs. */
export function BatonChip({ name, value, canCopy = false, size = 'small' }: BatonChipProps) {
  const copyText = useCopy();
  const look = `baton-chip ${size === 'large' ? 'px-4 py-1.5 text-[16px]' : ''}`;
  const inside = (
    <>
      {name !== undefined && <span>{name}</span>} <span className="value">{value}</span>
    </>
  );
  if (!canCopy) return <span className={look}>{inside}</span>;
  return (
    <button
      type="button"
      className={`${look} hover:border-baton-ink`}
      onClick={() => void copyText(value, `Copied ${value}`)}
      title="Copy"
      aria-label={`Copy ${name ?? 'value'} ${value}`}
    >
      {inside}
      <Copy size={size === 'large' ? 18 : 13} aria-hidden />
    </button>
  );
}
