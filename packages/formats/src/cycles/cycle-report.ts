import type { Proof } from '@kindred-baton/core/requirements/requirement';
import { describeProof } from '@kindred-baton/core/requirements/requirement';
import type { ExitResult } from '@kindred-baton/core/progress/check-exit';
import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import { describeExitRule } from '@kindred-baton/core/progress/check-exit';
import type { ReportedAttempt, ReportedTurn } from '@kindred-baton/core/cycles/record';
import type { Reservation } from '@kindred-baton/core/cycles/cycle';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { getPassShare, getRunShare, sumCounts } from '@kindred-baton/core/progress/tally';
import type { OutTable } from '../tables/write-tables.ts';
import { heading, list, paragraph, table } from '../documents/html.ts';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toLines } from '../xml/markup.ts';

export interface ReportedNode {
  readonly code: string;
  readonly name: string;
  readonly depth: number;
  readonly owner: string | null;
  readonly counts: Counts;
  readonly criteria: readonly ExitResult[];
  readonly openDefects: readonly { readonly code: string; readonly title: string; readonly severity: string }[];
  readonly requirements: readonly { readonly code: string; readonly title: string; readonly state: string; readonly proof: Proof }[];
  readonly signOff: {
    readonly decision: string;
    readonly reason: string;
    readonly by: string;
    /** A day, as people write it. */
    readonly at: string;
    readonly reservations: readonly Reservation[];
    readonly counts: Counts;
    readonly hasMoved: boolean;
  } | null;
}

export interface CycleRecord {
  readonly turns: readonly ReportedTurn[];
  readonly attempts: readonly ReportedAttempt[];
}

export interface ReportedCycle {
  /** What the programme calls severities, for the criteria; defects bear those words already. */
  readonly severityNames: SeverityNames;
  readonly code: string;
  readonly name: string;
  readonly state: string;
  readonly purpose: string;
  readonly environment: string;
  readonly owner: string | null;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly counts: Counts;
  readonly criteria: readonly ExitResult[];
  readonly nodes: readonly ReportedNode[];
  readonly runs: readonly {
    readonly number: number;
    readonly scenario: string;
    readonly row: string;
    readonly outcome: string;
    readonly left: string;
  }[];
  readonly lanes: readonly {
    readonly team: string;
    readonly turns: number;
    readonly minutes: number;
    readonly minutesLeft: number;
    readonly counts: Counts;
  }[];
  readonly defects: readonly {
    readonly code: string;
    readonly title: string;
    readonly severity: string;
    readonly status: string;
    readonly team: string;
    readonly waiting: number;
  }[];
  readonly changes: readonly { readonly at: string; readonly by: string; readonly action: string; readonly why: string }[];
}

const share = (value: number | null) => (value === null ? '–' : `${(Math.floor(value * 1000) / 10).toFixed(1)} %`);
const STYLE = `
h1 { font-size: 20pt; margin-bottom: 1mm } .figure { text-align: right } .sign { margin-top: 14mm; display: grid; grid-template-columns: 1fr 1fr; gap: 12mm } .sign div { border-top: 0.3mm solid #17282f; padding-top: 1mm; color: #566670 }
.box { display: inline-block; width: 4mm; height: 4mm; border: 0.3mm solid #17282f; margin-right: 2mm; vertical-align: middle } .decision p { margin: 3mm 0 } .lines { height: 18mm; border-bottom: 0.3mm solid #b9b09d } section { break-inside: avoid }
`;

function criteriaTable(criteria: readonly ExitResult[], names: SeverityNames): Markup {
  return table(
    ['Criterion', 'Now', 'Met'],
    criteria.map(({ rule, figure, isMet }) => [
      describeExitRule(rule, names),
      rule.kind === 'open defects' || rule.kind === 'critical nodes signed off' ? String(figure ?? 0) : share(figure),
      isMet ? 'yes' : 'no',
    ]),
  );
}

const figuresOf = (counts: Counts) => [
  sumCounts(counts),
  counts.passed,
  counts.failed,
  counts.blocked,
  counts.skipped,
  share(getRunShare(counts)),
  share(getPassShare(counts)),
];
const FIGURES = ['Turns', 'Passed', 'Failed', 'Blocked', 'Skipped', 'Run', 'Passed of run'];

/** The acceptance sheet of one node: figures, criteria, open defects, requirements, and places to sign. A4 or Letter. */
export function writeAcceptanceSheet(cycle: ReportedCycle, node: ReportedNode, head: DocumentHead): string {
  const { signOff } = node;
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, `Acceptance: ${node.name}`),
    paragraph(
      `${node.code} · ${cycle.name} (${cycle.code}), environment ${cycle.environment} · owner ${node.owner ?? 'not named'}`,
      'about',
    ),
    heading(3, 'Figures'),
    table(FIGURES, [figuresOf(node.counts)]),
    heading(3, 'Exit criteria'),
    criteriaTable(node.criteria, cycle.severityNames),
    heading(3, `Open defects: ${node.openDefects.length}`),
    node.openDefects.length === 0
      ? NO_MARKUP
      : table(
          ['Defect', 'Title', 'Severity'],
          node.openDefects.map(({ code, title, severity }) => [code, title, severity]),
        ),
    heading(
      3,
      `Requirements: ${node.requirements.filter(({ state }) => state === 'verified').length} of ${node.requirements.length} verified`,
    ),
    table(
      ['Requirement', 'What must hold', 'State', 'Over'],
      node.requirements.map(({ code, title, state, proof }) => [code, title, state, describeProof(proof)]),
    ),
    markup`<section>`,
    heading(3, 'Decision'),
    signOff
      ? markup`${paragraph(`${signOff.decision}, by ${signOff.by}, ${signOff.at}. ${signOff.reason}`)}${list(signOff.reservations.map(({ text, dueOn }) => `${text} (until ${dueOn})`))}${signOff.hasMoved ? paragraph('The figures above have moved since this decision.') : NO_MARKUP}`
      : markup`<div class="decision"><p><span class="box"></span>accepted</p><p><span class="box"></span>accepted with these reservations, each with its day:</p><div class="lines"></div><div class="lines"></div><p><span class="box"></span>refused, because:</p><div class="lines"></div></div>`,
    markup`<div class="sign"><div>Place and day</div><div>Process owner${node.owner ? `: ${node.owner}` : ''}</div><div>Place and day</div><div>Test lead</div></div>`,
    markup`</section>`,
  ];
  return writePage(head, toLines(body), { style: STYLE });
}

/** The whole cycle: where it stands, process by process, lane by lane, what is left, the defects, and what was changed of its scope. */
export function writeCycleReport(cycle: ReportedCycle, head: DocumentHead): string {
  const open = cycle.runs.filter(({ outcome }) => outcome !== 'passed' && outcome !== 'skipped');
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, cycle.name),
    paragraph(
      `${cycle.code} · ${cycle.purpose} · ${cycle.state} · ${cycle.startsOn} to ${cycle.endsOn} · environment ${cycle.environment}${cycle.owner ? ` · led by ${cycle.owner}` : ''}`,
      'about',
    ),
    table(FIGURES, [figuresOf(cycle.counts)]),
    heading(2, 'Exit criteria'),
    criteriaTable(cycle.criteria, cycle.severityNames),
    heading(2, 'By process'),
    table(
      ['Process', 'Owner', ...FIGURES, 'Decision'],
      cycle.nodes.map((node) => [
        `${'  '.repeat(node.depth)}${node.name}`,
        node.owner ?? '',
        ...figuresOf(node.counts),
        nameDecision(cycle.nodes, node),
      ]),
    ),
    heading(2, 'By team'),
    table(
      ['Team', ...FIGURES, 'Hours left'],
      cycle.lanes.map((lane) => [lane.team, ...figuresOf(lane.counts), (lane.minutesLeft / 60).toFixed(1)]),
    ),
    heading(2, `Defects: ${cycle.defects.length}`),
    table(
      ['Defect', 'Title', 'Severity', 'Status', 'Team', 'Turns waiting'],
      cycle.defects.map(({ code, title, severity, status, team, waiting }) => [code, title, severity, status, team, waiting]),
    ),
    heading(2, `Runs that are not through: ${open.length} of ${cycle.runs.length}`),
    table(
      ['Run', 'Scenario', 'Data row', 'Outcome', 'Where it goes'],
      open.map(({ number, scenario, row, outcome, left }) => [number, scenario, row, outcome, left]),
    ),
    heading(2, 'Decisions'),
    ...cycle.nodes.flatMap(({ name, signOff }) =>
      signOff
        ? [
            paragraph(`${name}: ${signOff.decision}, ${signOff.by}, ${signOff.at}. ${signOff.reason}`),
            list(signOff.reservations.map(({ text, dueOn }) => `${text} (until ${dueOn})`)),
          ]
        : [],
    ),
    cycle.changes.length === 0 ? NO_MARKUP : heading(2, 'Changed since it opened'),
    cycle.changes.length === 0
      ? NO_MARKUP
      : table(
          ['When', 'Who', 'What', 'Why'],
          cycle.changes.map(({ at, by, action, why }) => [at, by, action, why]),
        ),
  ];
  return writePage(head, toLines(body), { style: STYLE, isWide: true });
}

/** What was decided on a node, or on one above it: what stands below an accepted stream is not open any more. Nodes come in map order. */
function nameDecision(nodes: readonly ReportedNode[], node: ReportedNode): string {
  if (node.signOff) return node.signOff.decision;
  let { depth } = node;
  for (const above of nodes.slice(0, nodes.indexOf(node)).reverse()) {
    if (above.depth >= depth) continue;
    depth = above.depth;
    if (above.signOff && above.signOff.decision !== 'refused') return `${above.signOff.decision} with ${above.code}`;
  }
  return 'open';
}

/** The same as sheets of a workbook. */
/** The report as a workbook: figures and decisions first, then every turn, every finished attempt and every value that was kept. */
export function toCycleTables(cycle: ReportedCycle, record: CycleRecord): OutTable[] {
  const figures = ({ passed, failed, blocked, skipped, ...rest }: Counts) => [
    passed,
    failed,
    blocked,
    skipped,
    rest['under way'],
    rest.ready,
    rest.waiting,
    rest.held,
  ];
  const FIGURE_HEADS = ['Passed', 'Failed', 'Blocked', 'Skipped', 'Under way', 'Ready', 'Waiting', 'Held'];
  return [
    {
      sheet: 'Cycle',
      headings: ['Code', 'Name', 'Purpose', 'State', 'From', 'To', 'Environment', ...FIGURE_HEADS],
      rows: [
        [cycle.code, cycle.name, cycle.purpose, cycle.state, cycle.startsOn, cycle.endsOn, cycle.environment, ...figures(cycle.counts)],
      ],
    },
    {
      sheet: 'Processes',
      headings: ['Code', 'Process', 'Level', 'Owner', ...FIGURE_HEADS, 'Decision', 'Reason'],
      rows: cycle.nodes.map((node) => [
        ...[node.code, node.name, node.depth + 1, node.owner ?? ''],
        ...figures(node.counts),
        nameDecision(cycle.nodes, node),
        node.signOff?.reason ?? '',
      ]),
    },
    {
      sheet: 'Reservations',
      headings: ['Code', 'Process', 'Reservation', 'Until', 'Who', 'When'],
      rows: cycle.nodes.flatMap(({ code, name, signOff }) =>
        (signOff?.reservations ?? []).map(({ text, dueOn }) => [code, name, text, dueOn, signOff?.by ?? '', signOff?.at ?? '']),
      ),
    },
    {
      sheet: 'Teams',
      headings: ['Team', 'Minutes', 'Minutes left', ...FIGURE_HEADS],
      rows: cycle.lanes.map((lane) => [lane.team, lane.minutes, lane.minutesLeft, ...figures(lane.counts)]),
    },
    {
      sheet: 'Runs',
      headings: ['Run', 'Scenario', 'Data row', 'Outcome', 'Left to'],
      rows: cycle.runs.map(({ number, scenario, row, outcome, left }) => [number, scenario, row, outcome, left]),
    },
    {
      sheet: 'Defects',
      headings: ['Defect', 'Title', 'Severity', 'Status', 'Team', 'Turns waiting'],
      rows: cycle.defects.map(({ code, title, severity, status, team, waiting }) => [code, title, severity, status, team, waiting]),
    },
    {
      sheet: 'Scope changes',
      headings: ['When', 'Who', 'What', 'Why'],
      rows: cycle.changes.map(({ at, by, action, why }) => [at, by, action, why]),
    },
    ...toRecordTables(record),
  ];
}

function toRecordTables({ turns, attempts }: CycleRecord): OutTable[] {
  return [
    {
      sheet: 'Turns',
      headings: [
        ...['Run', 'Leg', 'Scenario', 'Data row', 'Turn', 'Test', 'Version', 'Process', 'Team', 'With'],
        ...['Minutes', 'Due', 'Status', 'Ready', 'Done', 'Left to'],
      ],
      rows: turns.map((turn) => [
        ...[turn.run, turn.leg, turn.scenario, turn.row ?? '', turn.title, turn.test ?? '', turn.version ?? '', turn.node],
        ...[
          turn.team ?? '',
          turn.assignee ?? '',
          turn.minutes,
          turn.dueOn ?? '',
          turn.status,
          turn.readyAt,
          turn.doneAt,
          turn.leftTo ?? '',
        ],
      ]),
    },
    {
      sheet: 'Attempts',
      headings: ['Run', 'Leg', 'Turn', 'Attempt', 'By', 'Version', 'Environment', 'Begun', 'Finished', 'Outcome', 'From a paper sheet'],
      rows: attempts.map(({ run, leg, title, number, person, version, environment, startedAt, finishedAt, outcome, isFromSheet }) => [
        ...[run, leg, title, number, person, version ?? '', environment, startedAt, finishedAt, outcome ?? '', isFromSheet ? 'yes' : ''],
      ]),
    },
    {
      sheet: 'Values',
      headings: ['Run', 'Leg', 'Turn', 'Attempt', 'Value', 'Kept', 'By', 'Finished'],
      rows: attempts.flatMap(({ run, leg, title, number, kept, person, finishedAt }) =>
        Object.entries(kept).map(([name, value]) => [run, leg, title, number, name, value, person, finishedAt]),
      ),
    },
  ];
}
