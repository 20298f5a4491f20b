import type { PersonId } from '../ids.ts';

/** What follows from where a defect stands. Everything that treats statuses differently reads it here. */
interface DefectStatusFacts {
  /** On the button that brings a defect here. */
  readonly move: string;
  /** The same where it was over, or thought to be, before. */
  readonly moveBack?: string;
  /** It keeps its turns from being tried again. */
  readonly isHolding: boolean;
  /** Nobody does anything about it any more; whatever is not over counts as open. */
  readonly isOver: boolean;
  /** Its retests close it, or open it again. */
  readonly isAtRetest: boolean;
  /** A person must say why. */
  readonly asksWhy: boolean;
  /** What somebody must do for it to go on. */
  readonly awaits: 'a decision' | 'a fix' | 'a retest' | 'nothing';
  /** Where a person may move it next. */
  readonly next: readonly string[];
}

/** In the order in which a defect goes through them. A row here is all that another status takes. */
const FACTS = {
  new: {
    move: 'New',
    isHolding: true,
    isOver: false,
    isAtRetest: false,
    asksWhy: false,
    awaits: 'a decision',
    next: ['accepted', 'fixed', 'declined'],
  },
  accepted: {
    ...{ move: 'Accept', moveBack: 'Open again', isHolding: true, isOver: false, isAtRetest: false, asksWhy: false, awaits: 'a fix' },
    next: ['fixed', 'declined'],
  },
  fixed: {
    move: 'Mark as fixed',
    isHolding: false,
    isOver: false,
    isAtRetest: true,
    asksWhy: false,
    awaits: 'a retest',
    next: ['accepted', 'closed'],
  },
  closed: { move: 'Close', isHolding: false, isOver: true, isAtRetest: false, asksWhy: false, awaits: 'nothing', next: ['accepted'] },
  declined: { move: 'Decline', isHolding: false, isOver: true, isAtRetest: false, asksWhy: true, awaits: 'nothing', next: ['accepted'] },
} as const satisfies Readonly<Record<string, DefectStatusFacts>>;

export type DefectStatus = keyof typeof FACTS;
export const DEFECT_STATUSES = Object.keys(FACTS) as [DefectStatus, ...DefectStatus[]];
const STATUS: Readonly<Record<DefectStatus, Omit<DefectStatusFacts, 'next'> & { readonly next: readonly DefectStatus[] }>> = FACTS;

/** Where a person may move a defect next. */
export const listDefectMoves = (status: DefectStatus): readonly DefectStatus[] => STATUS[status].next;
/** A defect in these states keeps its turns from being tried again. */
export const isHolding = (status: DefectStatus): boolean => STATUS[status].isHolding;
/** A defect that is fixed is open until its retests have passed. */
export const isOver = (status: DefectStatus): boolean => STATUS[status].isOver;
/** Whether a person who moves a defect here must say why. */
export const asksWhy = (status: DefectStatus): boolean => STATUS[status].asksWhy;
/** What somebody must do for a defect to go on. */
export const getAwaited = (status: DefectStatus): DefectStatusFacts['awaits'] => STATUS[status].awaits;
/** Its fix waits for its retests. */
export const isAtRetest = (status: DefectStatus): boolean => STATUS[status].isAtRetest;
/**
 * Who may move a defect: those who decide on all, whoever it is given to, and, of one that no retest will judge since it was seen at no turn, whoever
 * found it, once it is said to be fixed.
 */
export function mayMoveDefect(
  by: { readonly person: PersonId; readonly decidesOnAll: boolean },
  defect: { readonly status: DefectStatus; readonly assigneeId: PersonId | null; readonly foundById: PersonId; readonly hasTurns: boolean },
): boolean {
  const isFinder = defect.foundById === by.person && !defect.hasTurns && isAtRetest(defect.status);
  return by.decidesOnAll || defect.assigneeId === by.person || isFinder;
}

/** The words of the button that moves a defect. */
export const nameDefectMove = (from: DefectStatus, to: DefectStatus): string =>
  (from === DEFECT_STATUSES[0] ? undefined : STATUS[to].moveBack) ?? STATUS[to].move;

/**
 * What the retests of its turns make of a fixed defect: one failed again → accepted (it reopens); all passed or skipped →
 * closed; some passed, some to come → still fixed. Any other status stays.
 */
export function decideAfterRetest(status: DefectStatus, retests: readonly ('passed' | 'failed' | 'to come')[]): DefectStatus {
  if (!isAtRetest(status)) return status;
  if (retests.includes('failed')) return 'accepted';
  return retests.length > 0 && retests.every((retest) => retest === 'passed') ? 'closed' : status;
}

export const DEFECT_KINDS = ['function', 'data', 'access', 'display', 'text', 'speed', 'test'] as const;

/** What a defect does to the business, the worst first. */
export const SEVERITIES = ['stops the business', 'slows the business', 'hinders', 'cosmetic'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** A programme may call them by its own words. */
export type SeverityNames = Readonly<Partial<Record<Severity, string>>>;
export const nameSeverity = (severity: Severity, names: SeverityNames): string => names[severity] || severity;

/** How a defect hangs together with another, or with something at an address. */
export const DEFECT_LINK_KINDS = ['same as', 'caused by', 'see also', 'tracked at'] as const;
type DefectLinkKind = (typeof DEFECT_LINK_KINDS)[number];

export interface DefectLink {
  readonly kind: DefectLinkKind;
  /** A defect's code; with *tracked at* an address. */
  readonly to: string;
}
