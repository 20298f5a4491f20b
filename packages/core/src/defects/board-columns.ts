import type { DefectStatus } from './defect.ts';
import { getAwaited } from './defect.ts';

export interface BoardDefect {
  readonly status: DefectStatus;
  readonly assignee: string | null;
  /** Turns behind it. */
  readonly waiting: number;
}

export interface BoardColumn<Defect> {
  readonly key: string;
  /** Who must act, and what she does. */
  readonly who: string;
  readonly does: string;
  /** What a defect becomes that is dragged here; null: nothing is brought here by hand. */
  readonly to: DefectStatus | null;
  readonly defects: readonly Defect[];
}

const waitingOf = (defects: readonly BoardDefect[]) => defects.reduce((sum, { waiting }) => sum + waiting, 0);

/**
 * Defects by who must act: the leads decide, somebody gives out what nobody fixes yet, each who fixes has a column of her own (the most waiting
 * turns first), testers try again. Within a column what keeps the most turns waiting stands first.
 */
export function toBoardColumns<Defect extends BoardDefect>(defects: readonly Defect[], isAll: boolean): BoardColumn<Defect>[] {
  const sorted = [...defects].sort((a, b) => b.waiting - a.waiting);
  const own = (awaited: ReturnType<typeof getAwaited>) => sorted.filter(({ status }) => getAwaited(status) === awaited);
  const fixes = own('a fix');
  const fixers = [...new Set(fixes.flatMap(({ assignee }) => assignee ?? []))]
    .map((name) => ({ name, defects: fixes.filter(({ assignee }) => assignee === name) }))
    .sort((a, b) => waitingOf(b.defects) - waitingOf(a.defects) || a.name.localeCompare(b.name));
  const over = own('nothing');
  return [
    { key: 'decide', who: 'The leads', does: 'accept or decline', to: null, defects: own('a decision') },
    {
      key: 'give',
      who: 'Nobody yet',
      does: 'give it to whoever fixes it',
      to: 'accepted',
      defects: fixes.filter(({ assignee }) => assignee === null),
    },
    ...fixers.map(({ name, defects: hers }) => ({ key: `fix ${name}`, who: name, does: 'fixes', to: null, defects: hers })),
    { key: 'retest', who: 'Testers', does: 'try again', to: 'fixed', defects: own('a retest') },
    ...(isAll ? [{ key: 'over', who: 'Nobody any more', does: 'closed or declined', to: 'closed' as const, defects: over }] : []),
  ];
}
