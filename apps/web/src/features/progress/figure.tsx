interface FigureProps {
  readonly href: string;
  readonly of: number;
  readonly beside?: string;
  readonly isBad?: boolean;
}

/** A number that opens what it counts. */
export function Figure({ href, of, beside, isBad = false }: FigureProps) {
  return (
    <td className="text-right whitespace-nowrap">
      {of === 0 ? (
        <span className="text-soft">–</span>
      ) : (
        <a className={`inline-block min-h-[24px] font-mono hover:underline ${isBad ? 'text-failed' : ''}`} href={href}>
          {of.toLocaleString('en')}
        </a>
      )}
      {beside !== undefined && of > 0 && <span className="block text-[12px] text-soft">{beside}</span>}
    </td>
  );
}
