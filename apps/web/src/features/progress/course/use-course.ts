import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { CourseUnit } from '@kindred-baton/core/progress/course';
import { unpackFacts } from '@kindred-baton/core/progress/course';
import { drawCurves } from '@kindred-baton/core/progress/draw-curve';
import { useCallback, useMemo } from 'react';
import { formatMinutes } from '../../../ui/format.ts';
import { describeEnd } from './describe-course.ts';
import { layOutCourse } from './lay-out-course.ts';
import { useForecast } from './use-forecast.ts';

interface CourseOf {
  readonly course: PackedCourse;
  readonly cycle: { readonly code: string };
  readonly unit: CourseUnit;
  /** The team whose course is drawn alone; null: that of all. */
  readonly team: string | null;
  readonly scope: string | null;
}

/** A course as it is drawn: what was, from what is known; what may come, as soon as its worker has drawn it. */
export function useCourse({ course, cycle, unit, team, scope }: CourseOf) {
  const facts = useMemo(() => unpackFacts(course), [course]);
  const { all, groups } = useMemo(() => drawCurves(facts, unit), [facts, unit]);
  const { forecast, remedies, hasFailed } = useForecast({
    ...{ facts: course.isOver ? null : facts, plannedDay: course.plannedDay, unit },
    of: `${cycle.code} ${scope ?? ''}`,
  });
  const at = course.groups.findIndex(({ key }) => key === team);
  const group = at < 0 ? null : at;
  const line = group === null ? forecast?.all : forecast?.groups[group];
  const drawing = useMemo(
    () =>
      layOutCourse({
        ...{ course, facts, unit, group, isBranch: scope !== null, fan: line?.fan ?? [] },
        curve: (group === null ? all : groups[group]) ?? all,
      }),
    [course, facts, unit, group, scope, line, all, groups],
  );
  const format = useCallback((value: number) => (unit === 'turns' ? value.toLocaleString('en') : formatMinutes(Math.round(value))), [unit]);
  return { facts, groups, group, forecast, remedies, hasFailed, line, drawing, format, end: describeEnd(course, forecast) };
}
