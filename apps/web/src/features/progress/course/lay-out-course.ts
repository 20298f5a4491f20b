import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { CourseFacts, CourseUnit } from '@kindred-baton/core/progress/course';
import { weighTurn } from '@kindred-baton/core/progress/course';
import type { Curve } from '@kindred-baton/core/progress/draw-curve';
import type { FanDay, Forecast } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';

/** A day of the drawing; what is not known of it, or not yet, is null. */
export interface CoursePoint {
  readonly day: number;
  readonly date: string;
  readonly planned: number | null;
  readonly through: number | null;
  readonly wrong: number | null;
  readonly scope: number;
  readonly forecast: FanDay | null;
}

export interface CourseDrawing {
  readonly points: readonly CoursePoint[];
  /** All that is in scope now, and of it what is through and what went wrong. */
  readonly total: number;
  readonly through: number;
  readonly wrong: number;
  /** What should have been done by last evening and is not through; below 0: it is ahead. null: nothing was kept of the plan. */
  readonly behind: number | null;
}

interface CourseParts {
  readonly course: PackedCourse;
  readonly facts: CourseFacts;
  readonly curve: Curve;
  readonly fan: readonly FanDay[];
  readonly unit: CourseUnit;
  /** A team alone; null: all. */
  readonly group: number | null;
  /** A branch of the map: when turns came and went is known of the whole alone. */
  readonly isBranch: boolean;
}

/** Days, their plan, what was done and what is expected. Only days on which somebody works, or something was planned or done. */
export function layOutCourse({ course, facts, curve, fan, unit, group, isBranch }: CourseParts): CourseDrawing {
  const counted = facts.turns.filter((turn) => turn.isCounted && (group === null || turn.group === group));
  const total = counted.reduce((sum, turn) => sum + weighTurn(turn, unit), 0);
  const planned = course.baseline.filter((row) => group === null || row.group === group);
  const plannedBy = addUpByDay(planned.map(({ day, ...own }) => ({ day, of: own[unit] })));
  const changes = group === null && !isBranch ? listChanges(course, unit) : [];
  const fanOn = new Map(fan.map((one) => [one.day, one]));
  const lastDay = Math.max(course.plannedDay, course.today, fan.at(-1)?.day ?? 0, planned.at(-1)?.day ?? 0);
  const isShown = findShownDays(course, facts, lastDay);
  const points = Array.from({ length: lastDay + 1 }, (_, day) => day)
    .filter((day) => isShown.has(day))
    .map((day): CoursePoint => {
      const isPast = day <= course.today;
      return {
        ...{ day, date: addDays(course.firstDay, day), planned: planned.length > 0 ? plannedBy(day) : null },
        ...{ through: isPast ? (curve.through[day] ?? 0) : null, wrong: isPast ? (curve.wrong[day] ?? 0) : null },
        scope: total - changes.reduce((sum, change) => sum + (change.day > day ? change.of : 0), 0),
        forecast: fanOn.get(day) ?? null,
      };
    });
  const through = curve.through.at(-1) ?? 0;
  return {
    ...{ points, total, through, wrong: curve.wrong.at(-1) ?? 0 },
    behind: planned.length > 0 ? plannedBy(course.isOver ? course.today : course.today - 1) - through : null,
  };
}

function addUpByDay(rows: readonly { readonly day: number; readonly of: number }[]): (day: number) => number {
  return (day) => rows.reduce((sum, row) => sum + (row.day <= day ? row.of : 0), 0);
}

/** Minutes are unknown where a change was made before they were noted: it is left out then. */
const listChanges = ({ scopeChanges }: PackedCourse, unit: CourseUnit) =>
  scopeChanges.flatMap(({ day, ...own }) => (own[unit] === null ? [] : [{ day, of: own[unit] }]));

/** Lanes with nothing of this cycle, as runners that work every day, show no days. */
function findShownDays(course: PackedCourse, { lanes, tries, turns }: CourseFacts, lastDay: number): Set<number> {
  const shown = new Set([0, course.today, course.plannedDay, ...course.baseline.map(({ day }) => day), ...tries.map(({ day }) => day)]);
  for (const lane of new Set([...turns, ...tries].map((own) => own.lane)))
    lanes[lane]?.minutesByDay.forEach((minutes, day) => minutes > 0 && day <= lastDay && shown.add(day));
  return shown;
}

export interface OddsColumn {
  /** null: later than the columns before. */
  readonly day: number | null;
  readonly dots: number;
  readonly isInTime: boolean;
}

export const DOTS = 40;
const MOST_COLUMNS = 11;

/** So many ends, equally likely: the middle of each fortieth of the paths, by day. */
export function layOutOdds({ spread, paths }: Pick<Forecast, 'spread' | 'paths'>, plannedDay: number): OddsColumn[] {
  const columns: { day: number | null; dots: number; isInTime: boolean }[] = [];
  let [ended, at] = [0, 0];
  for (let dot = 0; dot < DOTS; dot += 1) {
    const wanted = ((dot + 0.5) / DOTS) * paths;
    while (at < spread.length && ended + spread[at]!.paths < wanted) ended += spread[at++]!.paths;
    const day = spread[at]?.day ?? null;
    const last = columns.at(-1);
    const isNew = !last || (last.day !== day && last.day !== null);
    if (isNew) columns.push({ day: columns.length === MOST_COLUMNS ? null : day, dots: 1, isInTime: day !== null && day <= plannedDay });
    else last.dots += 1;
  }
  return columns;
}
