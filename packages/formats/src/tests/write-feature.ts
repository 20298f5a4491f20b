import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { listInputs } from '@kindred-baton/core/imports/exported-test';
import { PERSONA_COLUMN, ROW_COLUMN } from './read-feature.ts';

const KEYWORDS = {
  go: 'Given',
  fill: 'When',
  pick: 'When',
  press: 'When',
  ask: 'When',
  hand: 'When',
  wait: 'When',
  see: 'Then',
  keep: 'Then',
} as const;

/** Gherkin: a scenario for each test, an outline where it has data rows. Reading it again gives the same steps and rows. */
export function writeFeature(tests: readonly ExportedTest[], title: string): string {
  const lines = [`Feature: ${fold(title)}`, ...tests.flatMap((test) => ['', ...toScenario(test)])];
  return `${lines.join('\n')}\n`;
}

const fold = (text: string) => text.replace(/\s+/g, ' ').trim();
const toTag = (text: string) => `@${text.trim().replace(/[\s@#]+/g, '-')}`;

function toScenario(test: ExportedTest): string[] {
  const { code, name, tags, steps, rows } = test;
  const inputs = rows.length > 0 ? listInputs(test) : [];
  let word = '';
  const written = steps.map((step) => {
    const own = KEYWORDS[step.do];
    const line = `    ${own === word ? 'And' : own} ${toText(step, inputs)}`;
    word = own;
    return line;
  });
  return [
    `  ${[code, ...tags].map(toTag).join(' ')}`,
    `  ${rows.length > 0 ? 'Scenario Outline' : 'Scenario'}: ${fold(name)}`,
    ...written,
    ...(rows.length > 0 ? ['', '    Examples:', ...toExamples(test, inputs)] : []),
  ];
}

/** Inputs that the examples give stand in angle brackets. */
const toText = (step: Step, inputs: readonly string[]) =>
  inputs.reduce((text, name) => text.replaceAll(`{${name}}`, `<${name}>`), printStep(step));

function toExamples({ rows }: ExportedTest, inputs: readonly string[]): string[] {
  const hasPersona = rows.some(({ as }) => as !== undefined);
  const heads = [ROW_COLUMN, ...(hasPersona ? [PERSONA_COLUMN] : []), ...inputs];
  const cells = rows.map(({ name, as, values }) => [
    name,
    ...(hasPersona ? [as ?? ''] : []),
    ...inputs.map((input) => values[input] ?? ''),
  ]);
  const all = [heads, ...cells].map((line) => line.map(escapeCell));
  const widths = heads.map((_, column) => Math.max(...all.map((line) => line[column]?.length ?? 0)));
  return all.map((line) => `      | ${line.map((cell, column) => cell.padEnd(widths[column] ?? 0)).join(' | ')} |`);
}

/** A cell's own bars, backslashes and line ends are escaped (Gherkin reference, data tables). */
const escapeCell = (text: string) => text.replace(/\\/g, '\\\\').replace(/\|/g, '\\|').replace(/\r?\n/g, '\\n').trim();
