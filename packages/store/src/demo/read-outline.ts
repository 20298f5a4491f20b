import { parseStep } from '@kindred-baton/core/tests/parse-step';
import type { Step } from '@kindred-baton/core/tests/step';

export interface OutlineNode {
  readonly code: string;
  readonly name: string;
  readonly depth: number;
  readonly team: string;
  readonly application: string;
  readonly isCritical: boolean;
}

export interface OutlineTest {
  readonly code: string;
  readonly name: string;
  readonly node: string;
  readonly team: string;
  readonly application: string;
  readonly minutes: number;
  readonly priority: 'high' | 'medium' | 'low';
  readonly steps: readonly Step[];
}

/**
 * Reads the demo's outline: `# CODE Name | Team | Application | critical` for nodes, one more # a level; `@ CODE Name | minutes |
 * priority` for a test at the node above; every other line is one of its steps. Throws on a line it cannot read.
 */
export function readOutline(text: string): { nodes: OutlineNode[]; tests: OutlineTest[] } {
  const nodes: OutlineNode[] = [];
  const tests: (OutlineTest & { steps: Step[] })[] = [];
  for (const line of text.split('\n').filter((candidate) => candidate.trim() !== '')) {
    const [head = '', ...rest] = line.split('|').map((part) => part.trim());
    if (line.startsWith('#')) nodes.push(readNode(head, rest));
    else if (line.startsWith('@')) tests.push(readTest(head, rest, nodes));
    else tests.at(-1)?.steps.push(readStep(line));
  }
  return { nodes, tests };
}

function readNode(head: string, [team = '', application = '', critical]: string[]): OutlineNode {
  const match = /^(#+) (\S+) (.+)$/.exec(head);
  if (!match) throw new Error(`Not a node: ${head}`);
  return {
    code: match[2] ?? '',
    name: match[3] ?? '',
    depth: (match[1] ?? '').length - 1,
    team,
    application,
    isCritical: critical === 'critical',
  };
}

function readTest(head: string, [minutes, priority]: string[], nodes: readonly OutlineNode[]): OutlineTest & { steps: Step[] } {
  const match = /^@ (\S+) (.+)$/.exec(head);
  const node = nodes.at(-1);
  if (!match || !node) throw new Error(`Not a test: ${head}`);
  const team = TEAM_OF_PREFIX[(match[1] ?? '').slice(0, 3)] ?? node.team;
  return {
    ...{ code: match[1] ?? '', name: match[2] ?? '', node: node.code, team, application: node.application, steps: [] },
    minutes: Number(minutes),
    priority: priority === 'high' || priority === 'low' ? priority : 'medium',
  };
}

const TEAM_OF_PREFIX: Readonly<Record<string, string>> = {
  CUS: 'Customer desk',
  FLD: 'Field crews',
  MET: 'Metering',
  BIL: 'Billing',
  STO: 'Stores',
  FIN: 'Finance',
};

function readStep(line: string): Step {
  const reading = parseStep(line);
  if (!reading.ok) throw new Error(`${line}: ${reading.message}`);
  return reading.step;
}
