/** Exit criteria: each with its figure now and what keeps it from being met (design: progress). */
import type { SeverityNames } from '../defects/defect.ts';
import { isOver, nameSeverity, SEVERITIES } from '../defects/defect.ts';
import type { DefectStatus, Severity } from '../defects/defect.ts';
import { isNotRun, TURN_STATUSES } from '../outcomes.ts';
import type { Counts } from './tally.ts';
import { getPassShare, getRunShare } from './tally.ts';
import type { ExitRule } from '../cycles/rules.ts';

export interface ExitFigures {
  readonly counts: Counts;
  readonly defects: readonly { readonly code: string; readonly severity: Severity; readonly status: DefectStatus }[];
  readonly requirements: readonly { readonly code: string; readonly kind: string; readonly state: string }[];
  /** Critical nodes, and whether they were accepted in this cycle. */
  readonly criticalNodes: readonly { readonly code: string; readonly isSignedOff: boolean }[];
}

export interface ExitResult {
  readonly rule: ExitRule;
  readonly isMet: boolean;
  /** A share from 0 to 1, a number, or null: nothing to measure yet. */
  readonly figure: number | null;
  /** What stands in the way: turn statuses whose turns it is, or codes of defects, requirements or nodes. */
  readonly open: readonly string[];
}

const NOT_RUN = TURN_STATUSES.filter(isNotRun);

const CHECKS: {
  readonly [Kind in ExitRule['kind']]: (rule: Extract<ExitRule, { kind: Kind }>, figures: ExitFigures) => Omit<ExitResult, 'rule'>;
} = {
  'run share': ({ least }, { counts }) => {
    const figure = getRunShare(counts);
    const isMet = figure !== null && figure >= least;
    return { figure, isMet, open: isMet ? [] : NOT_RUN.filter((status) => counts[status] > 0) };
  },
  'pass share': ({ least }, { counts }) => {
    const figure = getPassShare(counts);
    const isMet = figure !== null && figure >= least;
    return { figure, isMet, open: isMet || counts.failed === 0 ? [] : ['failed'] };
  },
  'open defects': ({ severity, most }, { defects }) => {
    const worst = SEVERITIES.indexOf(severity);
    const open = defects.filter((defect) => !isOver(defect.status) && SEVERITIES.indexOf(defect.severity) <= worst).map(({ code }) => code);
    return { figure: open.length, isMet: open.length <= most, open: open.length <= most ? [] : open };
  },
  'requirements verified': ({ requirements: kind }, { requirements }) => {
    const own = requirements.filter((requirement) => requirement.kind === kind);
    const open = own.filter(({ state }) => state !== 'verified').map(({ code }) => code);
    return { figure: own.length > 0 ? (own.length - open.length) / own.length : null, isMet: open.length === 0, open };
  },
  'critical nodes signed off': (_, { criticalNodes }) => {
    const open = criticalNodes.filter(({ isSignedOff }) => !isSignedOff).map(({ code }) => code);
    return { figure: criticalNodes.length - open.length, isMet: open.length === 0, open };
  },
};

/** Each rule with its figure. Cost O(rules × (defects + requirements + nodes)). */
export function checkExit(rules: readonly ExitRule[], figures: ExitFigures): ExitResult[] {
  return rules.map((rule) => ({
    rule,
    ...(CHECKS[rule.kind] as (rule: ExitRule, figures: ExitFigures) => Omit<ExitResult, 'rule'>)(rule, figures),
  }));
}

/** A rule as a sentence: “At least 95 % of what was run has passed”. */
export function describeExitRule(rule: ExitRule, names: SeverityNames): string {
  switch (rule.kind) {
    case 'run share':
      return `At least ${formatShare(rule.least)} is run`;
    case 'pass share':
      return `At least ${formatShare(rule.least)} of what was run has passed`;
    case 'open defects':
      return rule.most === 0
        ? `No open defect of “${nameSeverity(rule.severity, names)}” or worse`
        : `At most ${rule.most} open defects of “${nameSeverity(rule.severity, names)}” or worse`;
    case 'requirements verified':
      return `Every ${rule.requirements} requirement is verified`;
    case 'critical nodes signed off':
      return 'Every critical node is signed off';
  }
}

const formatShare = (share: number) => `${Math.round(share * 1000) / 10} %`;
