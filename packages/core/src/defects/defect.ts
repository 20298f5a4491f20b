export const DEFECT_STATUSES = ['new', 'accepted', 'fixed', 'retested', 'closed', 'declined'] as const;
export type DefectStatus = (typeof DEFECT_STATUSES)[number];

export const DEFECT_KINDS = ['function', 'data', 'access', 'display', 'text', 'speed', 'test'] as const;
export type DefectKind = (typeof DEFECT_KINDS)[number];

export const SEVERITIES = ['critical', 'major', 'minor', 'trivial'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** What a person may do with a defect; the retest's own moves (retested, closed, reopened) follow from turns. */
export const DEFECT_MOVES: Readonly<Record<DefectStatus, readonly DefectStatus[]>> = {
  new: ['accepted', 'fixed', 'declined'],
  accepted: ['fixed', 'declined'],
  fixed: ['accepted'],
  retested: ['closed', 'accepted'],
  closed: ['accepted'],
  declined: ['accepted'],
};

/** A defect in these states keeps its turns from being tried again. */
export function isHolding(status: DefectStatus): boolean {
  return status === 'new' || status === 'accepted';
}

/**
 * What the retests of its turns make of a fixed defect: one failed again → accepted (it reopens); all passed or skipped →
 * closed; some passed, some to come → still fixed. Any other status stays.
 */
export function decideAfterRetest(status: DefectStatus, retests: readonly ('passed' | 'failed' | 'to come')[]): DefectStatus {
  if (status !== 'fixed' && status !== 'retested') return status;
  if (retests.includes('failed')) return 'accepted';
  return retests.length > 0 && retests.every((retest) => retest === 'passed') ? 'closed' : status;
}

/** How a defect hangs together with another, or with something at an address. */
export const DEFECT_LINK_KINDS = ['same as', 'caused by', 'see also', 'tracked at'] as const;
export type DefectLinkKind = (typeof DEFECT_LINK_KINDS)[number];

export interface DefectLink {
  readonly kind: DefectLinkKind;
  /** A defect's code; with *tracked at* an address. */
  readonly to: string;
}
