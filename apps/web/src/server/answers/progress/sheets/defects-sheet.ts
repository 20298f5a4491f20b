import type { DefectCourseQuery } from '@kindred-baton/contracts/progress/defects';
import { nameSeverity, SEVERITIES } from '@kindred-baton/core/defects/defect';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getDefectCourse } from '@kindred-baton/store/progress/get-defect-course';
import type { Call } from '../../../call.ts';

/** Defects over time: a line for each day, with what was open at its end. */
export async function toDefectsSheet({ ask, actor }: Pick<Call, 'ask' | 'actor'>, query: DefectCourseQuery): Promise<OutTable> {
  const { cycle, days } = await ask(getDefectCourse, query);
  return {
    sheet: 'Defects',
    headings: [
      ...['Cycle', 'Day', 'Found', 'Fixed', 'Opened again', 'Closed'],
      ...SEVERITIES.map((severity) => `Open: ${nameSeverity(severity, actor.severityNames)}`),
    ],
    rows: days.map(({ date, found, fixed, reopened, over, open }) => [
      ...[cycle?.code ?? '', date, found, fixed, reopened, over],
      ...SEVERITIES.map((severity) => open[severity]),
    ]),
  };
}
