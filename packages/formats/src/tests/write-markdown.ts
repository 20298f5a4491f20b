import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { Field } from '@kindred-baton/core/values/field';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { listInputs } from '@kindred-baton/core/imports/exported-test';

/** Tests as Markdown (CommonMark with tables): one chapter each. */
export function writeMarkdown(tests: readonly ExportedTest[], title: string): string {
  return `# ${escape(title)}\n\n${tests.map(toChapter).join('\n')}`;
}

/** A text's own signs stay signs (CommonMark 0.31, 2.4 backslash escapes). */
const escape = (text: string) => text.replace(/[\\`*_[\]<>#|~]/g, '\\$&').replace(/\s*\n\s*/g, ' ');

function toChapter(test: ExportedTest): string {
  const { code, name, path, team, application, version, state, minutes, steps } = test;
  const head = [path.map(escape).join(' › '), escape(team ?? 'no team'), escape(application ?? 'no application'), `${minutes} min by hand`];
  const lines = steps.map(({ expect, ...step }, index) => `| ${index + 1} | ${escape(printStep(step))} | ${escape(expect ?? '')} |`);
  return [
    `## ${escape(code)} ${escape(name)}`,
    '',
    `${head.join(' · ')} · version ${version}, ${state}`,
    '',
    ...toFields('Needs', test.needs),
    ...toFields('Gives', test.gives),
    '| No. | Step | You should see |',
    '| ---: | --- | --- |',
    ...lines,
    '',
    ...toRows(test),
  ].join('\n');
}

function toFields(title: string, fields: readonly Field[]): string[] {
  return fields.length === 0
    ? []
    : [`**${title}**: ${fields.map(({ name, type }) => `${escape(name)} (${FIELD_TYPE_LABELS[type]})`).join(', ')}`, ''];
}

function toRows(test: ExportedTest): string[] {
  if (test.rows.length === 0) return [];
  const inputs = listInputs(test);
  return [
    '### Data rows',
    '',
    `| Data row | ${inputs.map(escape).join(' | ')} |`,
    `| --- |${inputs.map(() => ' --- |').join('')}`,
    ...test.rows.map(({ name, values }) => `| ${escape(name)} | ${inputs.map((input) => escape(values[input] ?? '')).join(' | ')} |`),
    '',
  ];
}
