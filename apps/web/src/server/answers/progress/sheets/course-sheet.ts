import type { CourseQuery } from '@kindred-baton/contracts/progress/course';
import { unpackFacts, weighTurn } from '@kindred-baton/core/progress/course';
import type { CourseUnit } from '@kindred-baton/core/progress/course';
import { drawCurves } from '@kindred-baton/core/progress/draw-curve';
import { addDays } from '@kindred-baton/core/time/calendar';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getCourse } from '@kindred-baton/store/progress/get-course';
import type { Call } from '../../../call.ts';

const UNITS: readonly CourseUnit[] = ['turns', 'minutes'];
const ALL = 'All';

/** The course of a cycle: a line for each day and team, and for all, with what stood at its evening. What is expected is drawn anew in each browser. */
export async function toCourseSheet({ ask }: Pick<Call, 'ask'>, query: CourseQuery): Promise<OutTable> {
  const { cycle, course } = await ask(getCourse, query);
  const headings = [
    ...['Cycle', 'Team', 'Day'],
    ...['turns', 'minutes'].flatMap((unit) => ['Planned', 'Through', 'Went wrong', 'In scope now'].map((head) => `${head}, ${unit}`)),
  ];
  if (!course) return { sheet: 'Course', headings, rows: [] };
  const facts = unpackFacts(course);
  const curves = UNITS.map((unit) => drawCurves(facts, unit));
  const hasPlan = course.baseline.length > 0;
  const lastDay = Math.max(course.today, ...course.baseline.map(({ day }) => day));
  const groups = [{ name: ALL, at: null }, ...course.groups.map(({ name }, at) => ({ name, at }))];
  const rows = groups.flatMap(({ name, at }) => {
    const isOwn = (group: number) => at === null || group === at;
    const counted = facts.turns.filter(({ isCounted, group }) => isCounted && isOwn(group));
    const planned = course.baseline.filter(({ group }) => isOwn(group));
    const cellsOf = (unit: CourseUnit, of: number) => {
      const curve = at === null ? curves[of]?.all : curves[of]?.groups[at];
      const scope = counted.reduce((sum, turn) => sum + weighTurn(turn, unit), 0);
      return (day: number) => [
        hasPlan ? planned.reduce((sum, row) => sum + (row.day <= day ? row[unit] : 0), 0) : '',
        ...(day > course.today ? ['', ''] : [curve?.through[day] ?? 0, curve?.wrong[day] ?? 0]),
        scope,
      ];
    };
    const readers = UNITS.map(cellsOf);
    return Array.from({ length: lastDay + 1 }, (_, day) => [
      ...[cycle?.code ?? '', name, addDays(course.firstDay, day)],
      ...readers.flatMap((read) => read(day)),
    ]);
  });
  return { sheet: 'Course', headings, rows };
}
