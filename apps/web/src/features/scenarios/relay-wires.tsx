import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import type { Relay, RelayWire } from './lay-out-relay.ts';

interface RelayWiresProps {
  readonly relay: Relay;
  readonly statusOf: ReadonlyMap<string, RunOverlay['turns'][number]>;
  readonly chosen: string | null;
}

/** Hand-overs: solid where the value has come, broken where its giver failed, faint while it is still to come. */
export function RelayWires({ relay, statusOf, chosen }: RelayWiresProps) {
  const ranked = [...relay.wires].sort((a, b) => a.values.length - b.values.length);
  return (
    <svg className="pointer-events-none absolute top-0 left-0" width={relay.width} height={relay.height} aria-hidden>
      {ranked.map((wire) => (
        <Wire
          key={wire.key}
          wire={wire}
          status={statusOf.get(wire.from)?.status}
          isLit={chosen !== null && (wire.from === chosen || wire.to === chosen)}
        />
      ))}
    </svg>
  );
}

function Wire({ wire, status, isLit }: { readonly wire: RelayWire; readonly status: string | undefined; readonly isLit: boolean }) {
  const carries = wire.values.length > 0;
  const colour =
    status === 'passed'
      ? 'var(--baton-wire)'
      : status === 'failed' || status === 'blocked'
        ? `var(--${status})`
        : isLit && carries
          ? 'var(--baton-wire)'
          : 'var(--skipped)';
  const dash = status === 'passed' && carries ? undefined : carries ? '5 4' : '1 4';
  return (
    <path
      d={wire.path}
      fill="none"
      stroke={colour}
      strokeWidth={isLit ? 3 : carries ? 2 : 1.25}
      strokeDasharray={dash}
      strokeLinecap="round"
      opacity={carries || isLit ? 1 : 0.7}
    />
  );
}
