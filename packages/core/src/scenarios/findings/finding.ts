import type { Field } from '../../values/field.ts';
import { toNameKey } from '../../values/field.ts';
import type { Chain, WiredLeg, WiredNeed, WireSource } from '../chain.ts';
import type { ScenarioEdit } from '../edit-scenario.ts';
import type { ScenarioDocument } from '../scenario-document.ts';

/** An error keeps a baton from arriving; a warning may surprise; a note is worth knowing. */
export const FINDING_WEIGHTS = ['error', 'warning', 'note'] as const;
type FindingWeight = (typeof FINDING_WEIGHTS)[number];

export interface Finding {
  readonly rule: string;
  readonly weight: FindingWeight;
  readonly leg: string;
  /** The value it is about, where there is one. */
  readonly value?: string | undefined;
  /** What is wrong, which one, and what would help. */
  readonly message: string;
}

export interface FindingContext {
  readonly chain: Chain;
  /** In an open cycle an open leg is an error, before that a note. */
  readonly isInOpenCycle: boolean;
  /** Its data rows, where they are looked at too. */
  readonly data?: Pick<ScenarioDocument, 'rows' | 'classes'>;
}

/** One way to get rid of a finding: edits that do it at once, or a place of the screen that helps. */
export type WayOut =
  | { readonly kind: 'edit'; readonly label: string; readonly edits: readonly ScenarioEdit[] }
  | {
      readonly kind: 'look';
      readonly label: string;
      readonly look: 'tests that give it' | 'tests that fit' | 'another test' | 'data rows';
    };

/** A rule looks at the whole chain. Adding one: a file here and a line in rules.ts. */
export interface FindingRule {
  readonly rule: string;
  readonly find: (context: FindingContext) => readonly Omit<Finding, 'rule'>[];
  /** What would help, the likeliest first. */
  readonly findWaysOut?: (finding: Finding, chain: Chain) => readonly WayOut[];
}

/** “leg 3, Price the quote” */
export function describeLeg(chain: Chain, id: string): string {
  const leg = chain.legs.find((candidate) => candidate.leg.id === id);
  return leg ? `leg ${leg.index + 1}, ${leg.leg.title}` : 'a leg that is gone';
}

/** The leg and the need that a finding speaks of. */
export function findPlace(chain: Chain, { leg: id, value }: Finding): { leg: WiredLeg; need: WiredNeed | undefined } | undefined {
  const leg = chain.legs.find((candidate) => candidate.leg.id === id);
  if (!leg) return undefined;
  return { leg, need: value === undefined ? undefined : leg.needs.find(({ need }) => toNameKey(need.name) === toNameKey(value)) };
}

/** The edit that sets by hand where a need of a leg comes from; null: it is wired by its name again. */
export function toWireEdit({ leg }: WiredLeg, need: Field, from: WireSource | null): ScenarioEdit {
  const was = leg.wires ?? [];
  const others = was.filter((wire) => toNameKey(wire.need) !== toNameKey(need.name));
  const wires = from === null ? others : [...others, { need: need.name, from }];
  return { kind: 'change leg', leg: leg.id, change: { wires }, was: { wires: was } };
}
