import { formatShare } from '../../ui/format.ts';

interface ShareBoundsProps {
  /** Shares from 0 to 1. */
  readonly low: number;
  readonly share: number;
  readonly high: number;
}

export const describeBounds = ({ low, share, high }: ShareBoundsProps): string =>
  `at least ${formatShare(low)}, so far ${formatShare(share)}, at most ${formatShare(high)}`;

const QUARTERS = [0, 0.25, 0.5, 0.75, 1];
const [WIDTH, HEIGHT, EDGE] = [132, 20, 6];
const toX = (share: number) => EDGE + share * (WIDTH - 2 * EDGE);

/** A share and what it may well be, from 0 to 100 %: a thick end at what it is at least, a ring at what was seen, a thin end at the most. */
export function ShareBoundsMark(bounds: ShareBoundsProps) {
  const { low, share, high } = bounds;
  const middle = HEIGHT / 2;
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={describeBounds(bounds)} className="block">
      <title>{describeBounds(bounds)}</title>
      {QUARTERS.map((at) => (
        <line key={at} x1={toX(at)} x2={toX(at)} y1={0} y2={HEIGHT} className="stroke-line-2" />
      ))}
      <line x1={toX(low)} x2={toX(high)} y1={middle} y2={middle} className="stroke-ink" strokeWidth={1.5} />
      <line x1={toX(low)} x2={toX(low)} y1={middle - 6} y2={middle + 6} className="stroke-ink" strokeWidth={3} />
      <line x1={toX(high)} x2={toX(high)} y1={middle - 4} y2={middle + 4} className="stroke-ink" strokeWidth={1.5} />
      <circle cx={toX(share)} cy={middle} r={3.5} className="fill-sheet stroke-ink" strokeWidth={1.5} />
    </svg>
  );
}
