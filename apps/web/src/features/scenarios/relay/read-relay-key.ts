import type { Relay } from '@kindred-baton/core/scenarios/relay';

export interface PressedKey {
  readonly key: string;
  readonly altKey: boolean;
  /** Ctrl, or ⌘. */
  readonly isCommand: boolean;
}

export interface RelayPlace {
  /** The legs in their order. */
  readonly legs: readonly { readonly id: string }[];
  readonly relay: Pick<Relay, 'lanes' | 'legs'>;
  /** The leg that has the focus; null: none. */
  readonly index: number | null;
  readonly canEdit: boolean;
}

/** What a key asks for in the relay. */
export type RelayAct =
  | { readonly kind: 'choose'; readonly index: number | null }
  /** Before another leg; null: to the end. */
  | { readonly kind: 'move'; readonly leg: string; readonly before: string | null }
  | { readonly kind: 'shift'; readonly index: number; readonly lane: string }
  | { readonly kind: 'remove'; readonly index: number }
  | { readonly kind: 'add' }
  | { readonly kind: 'zoom'; readonly by: -1 | 1 }
  /** The key is one of the relay's, and leads nowhere from here. */
  | { readonly kind: 'nothing' };

const NOTHING: RelayAct = { kind: 'nothing' };
const ARROWS: Readonly<Record<string, readonly ['across' | 'upright', -1 | 1]>> = {
  ArrowLeft: ['across', -1],
  ArrowRight: ['across', 1],
  ArrowUp: ['upright', -1],
  ArrowDown: ['upright', 1],
};

/** undefined: the key is none of the relay's. */
export function readRelayKey(pressed: PressedKey, place: RelayPlace): RelayAct | undefined {
  const { key, altKey, isCommand } = pressed;
  const { index, canEdit } = place;
  const arrow = ARROWS[key];
  if (arrow && index !== null) {
    const [way, by] = arrow;
    if (!altKey) return way === 'across' ? choose(place, index + by) : climb(place, index, by);
    if (!canEdit) return NOTHING;
    return way === 'across' ? move(place, index, by) : shift(place, index, by);
  }
  if (key === 'Delete' && index !== null && canEdit) return { kind: 'remove', index };
  if (key.toLowerCase() === 'a' && canEdit && !isCommand) return { kind: 'add' };
  if (key === '+' || key === '=') return { kind: 'zoom', by: 1 };
  if (key === '-') return { kind: 'zoom', by: -1 };
  return key === 'Escape' ? { kind: 'choose', index: null } : undefined;
}

const choose = ({ legs }: RelayPlace, index: number): RelayAct => (legs[index] ? { kind: 'choose', index } : NOTHING);

function climb({ relay }: RelayPlace, index: number, by: -1 | 1): RelayAct {
  const at = relay.legs[index];
  const column = relay.legs.filter((other) => other.column === at?.column).sort((a, b) => a.y - b.y);
  const next = column[column.findIndex((leg) => leg.index === index) + by];
  return next ? { kind: 'choose', index: next.index } : NOTHING;
}

function move({ legs }: RelayPlace, index: number, by: -1 | 1): RelayAct {
  const leg = legs[index];
  if (!leg || !legs[index + by]) return NOTHING;
  return { kind: 'move', leg: leg.id, before: legs[by < 0 ? index - 1 : index + 2]?.id ?? null };
}

function shift({ relay }: RelayPlace, index: number, by: -1 | 1): RelayAct {
  const lane = relay.lanes[(relay.legs[index]?.lane ?? 0) + by]?.name;
  return lane === undefined ? NOTHING : { kind: 'shift', index, lane };
}
