import { FINDING_WEIGHTS } from './finding.ts';
import type { Chain } from '../chain.ts';
import type { Finding, FindingContext, FindingRule, WayOut } from './finding.ts';
import { againstTheMap } from './against-the-map.ts';
import { givenLater } from './given-later.ts';
import { neededByNobody } from './needed-by-nobody.ts';
import { neverGiven } from './never-given.ts';
import { openLeg } from './open-leg.ts';
import { retiredTest } from './retired-test.ts';
import { samePerson } from './same-person.ts';
import { twoGivers } from './two-givers.ts';
import { typesDiffer } from './types-differ.ts';
import { waitsInACircle } from './waits-in-a-circle.ts';
import { wrongCells } from './wrong-cells.ts';

const FINDING_RULES: readonly FindingRule[] = [
  waitsInACircle,
  neverGiven,
  givenLater,
  typesDiffer,
  twoGivers,
  samePerson,
  retiredTest,
  openLeg,
  wrongCells,
  againstTheMap,
  neededByNobody,
];

/** All findings of a chain, errors first, then in the order of the legs. Cost O(legs × needs) for each rule. */
export function findFindings(context: FindingContext): Finding[] {
  const place = new Map(context.chain.legs.map(({ leg, index }) => [leg.id, index]));
  const rank = (finding: Finding) => FINDING_WEIGHTS.indexOf(finding.weight) * 10_000 + (place.get(finding.leg) ?? 0);
  return FINDING_RULES.flatMap(({ rule, find }) => find(context).map((finding) => ({ rule, ...finding }))).sort(
    (a, b) => rank(a) - rank(b),
  );
}

/** What would help against a finding, the likeliest first; empty where only a person can tell. */
export function findWaysOut(finding: Finding, chain: Chain): readonly WayOut[] {
  return FINDING_RULES.find(({ rule }) => rule === finding.rule)?.findWaysOut?.(finding, chain) ?? [];
}
