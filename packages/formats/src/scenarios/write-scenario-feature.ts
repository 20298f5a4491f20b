import type { ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { toNameKey } from '@kindred-baton/core/values/field';

/**
 * Gherkin: one scenario outline, a step a leg with what it takes and hands on, the data rows as examples; without rows a scenario. Columns
 * stand in angle brackets where a leg takes them.
 */
export function writeScenarioFeature({ file, path, legs, chain }: ExportedScenario): string {
  const { columns, rows } = file.data ?? { columns: [], rows: [] };
  const steps = legs.flatMap((leg, index) => {
    const needs = chain.legs[index]?.needs ?? [];
    const code = leg.test ? ` (${leg.test.code})` : '';
    const takes = needs.flatMap(({ need, source }) => {
      if (source.kind === 'leg')
        return [`And ${need.name} comes from leg ${chain.legs.findIndex((each) => each.leg.id === source.leg) + 1}`];
      if (source.kind === 'column' && rows.length > 0) return [`And ${need.name} is "<${source.field.name}>"`];
      return source.kind === 'fixed' ? [`And ${need.name} is "${source.value}"`] : [];
    });
    const gives = leg.gives.map(({ name }, at) => `${at === 0 ? 'Then' : 'And'} ${name} is handed on`);
    return [`${index === 0 ? 'Given' : 'When'} ${leg.lane ?? 'somebody'}: ${leg.title}${code}`, ...takes, ...gives].map(
      (line) => `    ${fold(line)}`,
    );
  });
  const heads = ['row', ...columns.map(({ name }) => name).filter((name) => toNameKey(name) !== 'row')];
  const cells = rows.map(({ name, values }) => [name, ...heads.slice(1).map((head) => values[head] ?? '')]);
  return [
    `Feature: ${fold(path.join(' › '))}`,
    '',
    `  @${file.code}`,
    `  ${rows.length > 0 ? 'Scenario Outline' : 'Scenario'}: ${fold(file.name)}`,
    ...steps,
    ...(rows.length > 0 ? ['', '    Examples:', ...[heads, ...cells].map((line) => `      | ${line.map(escapeCell).join(' | ')} |`)] : []),
    '',
  ].join('\n');
}

const fold = (text: string) => text.replace(/\s+/g, ' ').trim();
/** A cell's own bars, backslashes and line ends are escaped (Gherkin reference, data tables). */
const escapeCell = (text: string) => text.replace(/\\/g, '\\\\').replace(/\|/g, '\\|').replace(/\r?\n/g, '\\n').trim();
