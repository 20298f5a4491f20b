import { pushTo } from '@kindred-baton/core/push-to';
import type { DefectPlan } from '../fates.ts';
import { DEFECT_PLANS } from '../fates.ts';
import type { PlannedRun } from '../play-cycle.ts';
import type { RunFate } from '../simulate-run.ts';

export interface BigFates {
  readonly fates: readonly RunFate[];
  /** In the order of their numbers. */
  readonly defects: readonly DefectPlan[];
}

/** Of a hundred runs of the open cycle so many meet each end; the rest are not begun. */
const ENDS = [
  { end: 'through', share: 30 },
  { end: 'on the way', share: 22 },
  { end: 'defect', share: 20 },
  { end: 'failure', share: 5 },
  { end: 'block', share: 5 },
  { end: 'idle', share: 8 },
] as const;
/** How often a failure is one that was met in the same test before. */
const MET_BEFORE = 0.45;
const OPEN_STATUSES = ['new', 'accepted', 'accepted', 'fixed'] as const;
const WORDS = [
  'The amount is out by a cent',
  'The wrong customer is shown',
  'Nothing is said, and nothing is saved',
  'The list stays empty',
];

/** The open cycle: every kind of end, and defects of which some hold many runs. */
export function chooseBigFates(planned: readonly PlannedRun[], random: () => number): BigFates {
  const defects: DefectPlan[] = [];
  const metIn = new Map<string, string[]>();
  const meet = (item: PlannedRun, cut: number): string => {
    const test = item.scenario.legs[cut]?.test;
    const place = test?.code.slice(0, -4) ?? '';
    const known = metIn.get(place) ?? [];
    const again = known[Math.floor(random() ** 3 * known.length)];
    if (again !== undefined && random() < MET_BEFORE) return again;
    const key = `open ${defects.length}`;
    defects.push(
      createDefect(key, defects.length, { test: test?.name ?? '', status: OPEN_STATUSES[defects.length % OPEN_STATUSES.length]! }),
    );
    pushTo(metIn, place, key);
    return key;
  };
  const fates = planned.map((item): RunFate => {
    const size = item.turns.length;
    const [end, at, mended] = [chooseEnd(random() * 100), Math.floor(random() * size), new Map<number, string>()];
    if (end === 'through') return { cut: size, mended };
    if (end === 'on the way') return { cut: Math.max(1, at), mended };
    if (end === 'defect') return { cut: at, stop: { kind: 'defect', key: meet(item, at) }, mended };
    if (end === 'failure') return { cut: at, stop: { kind: 'failure', seen: WORDS[at % WORDS.length]! }, mended };
    if (end === 'block') return { cut: at, stop: { kind: 'block', why: 'The file of the night has not come' }, mended };
    return end === 'idle' ? { cut: at, stop: { kind: 'idle', person: '' }, mended } : { cut: 0, mended };
  });
  return { fates, defects };
}

/** A closed cycle: all is through, and what failed at first was mended; the first runs met a defect each. */
export function completeBigFates(planned: readonly PlannedRun[], wanted: number, random: () => number): BigFates {
  const defects: DefectPlan[] = [];
  const fates = planned.map(({ turns, scenario }, index): RunFate => {
    const mended = new Map<number, string>();
    if (index < wanted) {
      const at = Math.floor(random() * turns.length);
      const key = `mended ${index}`;
      defects.push(createDefect(key, index, { test: scenario.legs[at]?.test?.name ?? '', status: 'closed' }));
      mended.set(at, key);
    }
    return { cut: turns.length, mended };
  });
  return { fates, defects };
}

function chooseEnd(share: number): (typeof ENDS)[number]['end'] | 'not begun' {
  let upTo = 0;
  for (const { end, share: own } of ENDS) {
    upTo += own;
    if (share < upTo) return end;
  }
  return 'not begun';
}

/** Kinds, severities and priorities as Brindlemere's own defects have them. */
function createDefect(key: string, index: number, { test, status }: { test: string; status: DefectPlan['status'] }): DefectPlan {
  const like = DEFECT_PLANS[index % DEFECT_PLANS.length]!;
  return { ...like, key, status, title: `${like.title}: ${test}` };
}
