import type { Field } from '../values/field.ts';
import { isCompatible, toNameKey } from '../values/field.ts';

export interface ProposableTest {
  readonly code: string;
  readonly name: string;
  readonly team: string | null;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

export interface OpenLeg {
  readonly title: string;
  readonly team: string | null;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

export interface TestProposal {
  readonly code: string;
  readonly name: string;
  readonly team: string | null;
  /** 0 to 1. */
  readonly score: number;
  /** What speaks for it, and what it lacks: “same words: fit, meter”, “gives Meter serial”. */
  readonly reasons: readonly string[];
}

/** Below this a proposal would only be noise; found by trying the demo's open legs. */
const LEAST_SCORE = 0.3;
const SHARE = { words: 0.5, values: 0.4, team: 0.1 } as const;
const FILLERS = new Set('a an and as at by for from in into is it its of off on or out over the their then to up with'.split(' '));

/**
 * The tests that fit an open leg, best first. Compared are words (weighted by how rare they are in the library, as in K. Spärck Jones 1972,
 * inverse document frequency), the values that it gives and needs, and the team. Cost O(tests × words).
 */
export function proposeTests(leg: OpenLeg, tests: readonly ProposableTest[], limit = 5): TestProposal[] {
  const words = toWords(leg.title);
  const weightOf = weighWords(tests);
  const whole = sum([...words].map(weightOf));
  return tests
    .map((test) => {
      const own = toWords(test.name);
      const shared = [...words].filter((word) => own.has(word));
      const wordShare = whole === 0 ? 0 : (2 * sum(shared.map(weightOf))) / (whole + sum([...own].map(weightOf)));
      const values = compareValues(leg, test);
      const isSameTeam = leg.team !== null && test.team === leg.team;
      const weights = values.share === null ? { words: SHARE.words + SHARE.values, values: 0 } : SHARE;
      const score = weights.words * wordShare + weights.values * (values.share ?? 0) + (isSameTeam ? SHARE.team : 0);
      const reasons = [
        ...(shared.length > 0 ? [`same words: ${shared.join(', ')}`] : []),
        ...values.reasons,
        ...(isSameTeam ? [`also ${leg.team}`] : []),
      ];
      return { code: test.code, name: test.name, team: test.team, score: Math.min(1, score), reasons };
    })
    .filter(({ score }) => score >= LEAST_SCORE)
    .sort((a, b) => b.score - a.score || (a.code < b.code ? -1 : 1))
    .slice(0, limit);
}

const sum = (numbers: readonly number[]) => numbers.reduce((total, each) => total + each, 0);

/** Words by their stems: endings that English verbs and nouns take are cut off. */
function toWords(text: string): ReadonlySet<string> {
  const words = text.toLowerCase().match(/[\p{L}\d]+/gu) ?? [];
  return new Set(words.filter((word) => !FILLERS.has(word)).map(toStem));
}

function toStem(word: string): string {
  if (word.length <= 3) return word;
  const stem = word.replace(/(?:ies|ied)$/u, 'y').replace(/(?:ing|ed|es|s)$/u, '');
  const undoubled = stem.replace(/([^aeiou])\1$/u, '$1');
  return undoubled.length >= 3 ? undoubled.replace(/e$/u, '') : word;
}

function weighWords(tests: readonly ProposableTest[]): (word: string) => number {
  const counts = new Map<string, number>();
  for (const { name } of tests) for (const word of toWords(name)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return (word) => Math.log(1 + tests.length / (counts.get(word) ?? 1));
}

function compareValues(leg: OpenLeg, test: ProposableTest): { share: number | null; reasons: string[] } {
  const wanted = leg.gives.length + leg.needs.length;
  if (wanted === 0) return { share: null, reasons: [] };
  const isGiven = (field: Field) =>
    test.gives.some(
      (given) => toNameKey(given.name) === toNameKey(field.name) && (isCompatible(given, field) || isCompatible(field, given)),
    );
  const isNeeded = (field: Field) => test.needs.some((need) => toNameKey(need.name) === toNameKey(field.name));
  const given = leg.gives.filter(isGiven);
  const lacking = leg.gives.filter((field) => !isGiven(field));
  const needed = leg.needs.filter(isNeeded);
  const list = (fields: readonly Field[]) => fields.map(({ name }) => name).join(', ');
  return {
    share: (given.length + needed.length) / wanted,
    reasons: [
      ...(given.length > 0 ? [`gives ${list(given)}`] : []),
      ...(needed.length > 0 ? [`needs ${list(needed)}`] : []),
      ...(lacking.length > 0 ? [`does not give ${list(lacking)}`] : []),
    ],
  };
}
