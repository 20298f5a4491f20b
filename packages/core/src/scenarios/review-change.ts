import type { Field } from '../values/field.ts';
import { FIELD_TYPE_LABELS, isCompatible, toNameKey } from '../values/field.ts';
import type { LegView } from './chain.ts';
import type { Finding } from './findings/finding.ts';
import { findFindings } from './findings/rules.ts';
import { wireChain } from './wire-chain.ts';

export interface TestInterface {
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
  readonly ownValues: Readonly<Record<string, string>>;
}

/** How what a test needs and gives differs between two of its versions, in sentences. */
export function compareInterfaces(before: TestInterface, after: TestInterface): string[] {
  return [...compareFields(before.needs, after.needs, 'needs'), ...compareFields(before.gives, after.gives, 'gives')];
}

function compareFields(before: readonly Field[], after: readonly Field[], verb: 'needs' | 'gives'): string[] {
  const find = (fields: readonly Field[], name: string) => fields.find((field) => toNameKey(field.name) === toNameKey(name));
  return [
    ...after.filter(({ name }) => !find(before, name)).map(({ name }) => `It now ${verb} ${name}.`),
    ...before.filter(({ name }) => !find(after, name)).map(({ name }) => `It no longer ${verb} ${name}.`),
    ...after.flatMap((field) => {
      const old = find(before, field.name);
      if (!old || (old.type === field.type && isCompatible(old, field) && isCompatible(field, old))) return [];
      return old.type === field.type
        ? [`${field.name} has other values to choose from.`]
        : [`${field.name} is now ${FIELD_TYPE_LABELS[field.type]}, not ${FIELD_TYPE_LABELS[old.type]}.`];
    }),
  ];
}

export interface ReviewedScenario {
  readonly legs: readonly LegView[];
  readonly columns: readonly Field[];
  /** Ids of the legs that would take the newer version. */
  readonly changes: readonly string[];
}

export interface ChangeReview {
  readonly verdict: 'fits' | 'needs a look' | 'breaks';
  /** Errors and warnings that the newer version brings. */
  readonly brings: readonly Finding[];
  /** Those that it ends. */
  readonly ends: readonly Finding[];
}

/**
 * Whether a scenario still holds when legs take a newer version of their test: wired both ways, and the findings compared. New errors break
 * it, new warnings need a look. Cost: two wirings.
 */
export function reviewChange({ legs, columns, changes }: ReviewedScenario, after: TestInterface): ChangeReview {
  const changed = new Set(changes);
  const later = legs.map((leg) => (changed.has(leg.id) ? { ...leg, ...after } : leg));
  const list = (chosen: readonly LegView[]) =>
    findFindings({ chain: wireChain(chosen, columns), isInOpenCycle: false }).filter(({ weight }) => weight !== 'note');
  const [before, now] = [list(legs), list(later)];
  const toKey = ({ rule, leg, value }: Finding) => `${rule} ${leg} ${value ?? ''}`;
  const [keysBefore, keysNow] = [new Set(before.map(toKey)), new Set(now.map(toKey))];
  const brings = now.filter((finding) => !keysBefore.has(toKey(finding)));
  return {
    verdict: brings.some(({ weight }) => weight === 'error') ? 'breaks' : brings.length > 0 ? 'needs a look' : 'fits',
    brings,
    ends: before.filter((finding) => !keysNow.has(toKey(finding))),
  };
}
