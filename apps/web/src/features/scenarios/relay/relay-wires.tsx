import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import { LEG } from '@kindred-baton/core/scenarios/relay';
import type { Relay, RelayWire } from '@kindred-baton/core/scenarios/relay';
import type { Way } from '@kindred-baton/core/scenarios/trace-way';

interface RelayWiresProps {
  readonly relay: Relay;
  readonly statusOf: ReadonlyMap<string, RunOverlay['turns'][number]>;
  readonly way: Way | null;
}

/** Hand-overs: solid where the value has come, broken where its giver failed, faint while it is still to come. The way that is lit stands on top. */
export function RelayWires({ relay, statusOf, way }: RelayWiresProps) {
  const isLit = (wire: RelayWire) => way?.wires.has(`${wire.from} ${wire.to}`) === true;
  const rank = (wire: RelayWire) => (isLit(wire) ? 100 : 0) + wire.values.length;
  const ranked = [...relay.wires].sort((a, b) => rank(a) - rank(b));
  const hasWay = way !== null && way.wires.size > 0;
  return (
    <svg className="pointer-events-none absolute top-0 left-0" width={relay.width} height={relay.height} aria-hidden>
      {ranked.map((wire) => (
        <Wire key={wire.key} wire={wire} status={statusOf.get(wire.from)?.status} isLit={isLit(wire)} isDim={hasWay && !isLit(wire)} />
      ))}
      {relay.wires
        .filter(({ waitDays }) => waitDays > 0)
        .map(({ key, waitDays, points }) => {
          const [x = 0, y = 0] = points.at(-1) ?? [];
          return (
            <text key={key} x={x + 8} y={y - LEG.height / 2 - 2} className="fill-soft text-[10px] font-bold">
              +{waitDays} days
            </text>
          );
        })}
    </svg>
  );
}

interface WireProps {
  readonly wire: RelayWire;
  readonly status: string | undefined;
  readonly isLit: boolean;
  readonly isDim: boolean;
}

function Wire({ wire, status, isLit, isDim }: WireProps) {
  const carries = wire.values.length > 0;
  const isBroken = status === 'failed' || status === 'blocked';
  const colour = isBroken ? `var(--${status})` : status === 'passed' || isLit ? 'var(--baton-wire)' : 'var(--skipped)';
  const dash = carries && (status === 'passed' || (isLit && status === undefined)) ? undefined : carries ? '5 4' : '1 4';
  return (
    <path
      d={wire.path}
      fill="none"
      stroke={colour}
      strokeWidth={isLit ? 3 : carries ? 2 : 1.25}
      strokeDasharray={dash}
      strokeLinecap="round"
      opacity={isDim ? 0.3 : carries || isLit ? 1 : 0.7}
    />
  );
}
