import Copy from 'lucide-react/icons/copy';
import { useNotice } from './notices.tsx';

interface BatonChipProps {
  readonly name?: string;
  readonly value: string;
  /** A value that has come can be copied with a click. */
  readonly canCopy?: boolean;
  readonly size?: 'small' | 'large';
}

/** A travelling value wherever it occurs. */
export function BatonChip({ name, value, canCopy = false, size = 'small' }: BatonChipProps) {
  const notify = useNotice();
  const look = `baton-chip ${size === 'large' ? 'px-4 py-1.5 text-[16px]' : ''}`;
  const inside = (
    <>
      {name !== undefined && <span>{name}</span>} <span className="value">{value}</span>
    </>
  );
  if (!canCopy) return <span className={look}>{inside}</span>;
  const copy = async () => {
    await navigator.clipboard.writeText(value);
    notify({ kind: 'done', text: `Copied ${value}` });
  };
  return (
    <button
      type="button"
      className={`${look} hover:border-baton-ink`}
      onClick={() => void copy().catch(() => notify({ kind: 'problem', text: 'The browser does not let this page copy.' }))}
      title="Copy"
      aria-label={`Copy ${name ?? 'value'} ${value}`}
    >
      {inside}
      <Copy size={size === 'large' ? 18 : 13} aria-hidden />
    </button>
  );
}
