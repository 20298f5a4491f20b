import type { ChartLook } from '../chart/drawn-chart.tsx';
import { CHART_FONT as FONT } from '../chart/drawn-chart.tsx';
import type { CoursePoint } from './lay-out-course.ts';
import type { CourseUnit } from '@kindred-baton/core/progress/course';
import { formatDay } from '../../../ui/format.ts';

export interface CourseChartParts {
  readonly points: readonly CoursePoint[];
  readonly today: number;
  readonly plannedDay: number;
  /** Half of the paths, and 85 % of them, have ended by then. */
  readonly median: number | null;
  readonly late: number | null;
  readonly format: (value: number) => string;
  readonly unit: CourseUnit;
  /** It is closed: its last day is not today. */
  readonly isOver: boolean;
}

/** The drawing of a course for the chart library: plan, done with what went wrong, forecast, scope. */
export function toChartOption(
  { points, today, plannedDay, median, late, format, unit, isOver }: CourseChartParts,
  { colours, isNarrow, toBox }: ChartLook,
) {
  const at = new Map(points.map(({ day }, place) => [day, place]));
  const place = (day: number) => at.get(day) ?? at.get([...at.keys()].findLast((own) => own <= day) ?? 0) ?? 0;
  const text = { fontFamily: FONT, color: colours.soft, fontSize: 12 };
  const line = { type: 'line', symbol: 'none', silent: true, animation: false } as const;
  const scale = findScale(points, unit);
  const mark = { silent: true, symbol: 'none', animation: false, label: { show: false } } as const;
  const fan = (read: (point: CoursePoint) => number | null | undefined) => points.map((point) => read(point) ?? null);
  const isApart = median !== null && late !== null && (place(late) - place(median)) / points.length > (isNarrow ? 0.3 : 0.12);
  const toEndPoint = (day: number | null, name: string, itemStyle: object) =>
    day === null || at.get(day) === undefined
      ? []
      : [
          {
            coord: [place(day), points[place(day)]!.scope],
            symbol: 'circle',
            symbolSize: 11,
            itemStyle,
            label: toLabel(name, points[place(day)], colours.ink),
          },
        ];
  return {
    animation: false,
    textStyle: text,
    grid: { left: isNarrow ? 44 : 64, right: isNarrow ? 26 : 44, top: 56, bottom: 44 },
    tooltip: {
      trigger: 'axis',
      confine: true,
      backgroundColor: colours.sheet,
      borderColor: colours.line,
      textStyle: { ...text, color: colours.ink },
      formatter: (shown: unknown) => toBox(describePoint(points[readPlace(shown)], format)),
    },
    xAxis: {
      ...{ type: 'category', boundaryGap: false, data: points.map(({ day }) => String(day)), axisTick: { show: false } },
      axisLine: { lineStyle: { color: colours.line } },
      axisLabel: {
        ...{ ...text, lineHeight: 16, hideOverlap: true, interval: isNarrow ? 'auto' : points.length > 34 ? 'auto' : 0 },
        formatter: (_: string, index: number) => labelDay(points, index, today),
        rich: { now: { fontWeight: 700, color: colours.ink, fontFamily: FONT }, month: { color: colours.soft, fontFamily: FONT } },
      },
    },
    yAxis: {
      ...{ type: 'value', min: 0, ...scale, axisLabel: { ...text, formatter: format } },
      splitLine: { lineStyle: { color: colours.line, opacity: 0.6 } },
    },
    series: [
      {
        ...{ ...line, name: 'today', data: [], z: 0 },
        markLine: {
          ...mark,
          z: 0,
          data: isOver ? [] : [{ xAxis: place(today) }],
          lineStyle: { color: colours.tint, width: 16, opacity: 0.6, type: 'solid' },
        },
      },
      { ...line, name: 'In scope', step: 'end', data: points.map(({ scope }) => scope), lineStyle: { color: colours.ink, width: 1 } },
      {
        ...{ ...line, name: 'low', stack: 'fan', data: fan(({ forecast }) => forecast?.low), lineStyle: { opacity: 0 } },
        z: 1,
      },
      {
        ...{ ...line, name: 'high', stack: 'fan', lineStyle: { opacity: 0 }, z: 1 },
        data: fan(({ forecast }) => forecast && forecast.high - forecast.low),
        areaStyle: { color: colours.ink, opacity: 0.14 },
      },
      {
        ...line,
        name: 'Planned',
        data: points.map(({ planned }) => planned),
        lineStyle: { color: colours.soft, width: 1.5, type: [5, 4] },
      },
      {
        ...{ ...line, name: 'Through', stack: 'done', data: points.map(({ through }) => through), z: 3 },
        ...{ lineStyle: { color: colours.ink, width: 2.5 }, areaStyle: { color: colours.passed, opacity: 0.14 } },
        markPoint: {
          silent: true,
          animation: false,
          data: [
            {
              coord: [place(today), points[place(today)]?.through ?? 0],
              symbol: 'circle',
              symbolSize: 11,
              itemStyle: { color: colours.baton, borderColor: colours.ink, borderWidth: 2 },
              label: { show: false },
            },
          ],
        },
      },
      {
        ...{ ...line, name: 'Went wrong', stack: 'done', data: points.map(({ wrong }) => wrong), z: 2, lineStyle: { opacity: 0 } },
        areaStyle: {
          color: colours.failed,
          opacity: 0.9,
          decal: { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [2, 3], rotation: -0.8, color: colours.sheet },
        },
      },
      {
        ...{
          ...line,
          name: 'Forecast',
          data: fan(({ forecast }) => forecast?.middle),
          z: 3,
          lineStyle: { color: colours.ink, width: 2, type: [2, 3] },
        },
        markLine: {
          ...mark,
          lineStyle: { color: colours.soft, type: [4, 4] },
          data: [{ xAxis: place(plannedDay), label: { ...toLabel('planned', points[place(plannedDay)], colours.soft), position: 'end' } }],
        },
        markPoint: {
          ...{ silent: true, animation: false, label: { show: false } },
          data: [
            ...toEndPoint(median, 'even odds', { color: colours.ink }),
            // Beside the other there is no room for its name; the line above the picture says it.
            ...toEndPoint(late, isApart ? '85% by' : '', { color: colours.sheet, borderColor: colours.ink, borderWidth: 2 }),
          ],
        },
      },
    ],
  };
}

const readPlace = (at: unknown): number => (at as { readonly dataIndex: number }[])[0]?.dataIndex ?? 0;

/** Four or five lines, at round numbers of turns or hours. */
function findScale(points: readonly CoursePoint[], unit: CourseUnit): { readonly interval: number; readonly max: number } {
  const one = unit === 'turns' ? 1 : 60;
  const most = Math.max(1, ...points.map(({ scope }) => scope)) / one;
  const size = 10 ** Math.floor(Math.log10(most / 4));
  const step = [1, 2, 2.5, 5, 10].find((times) => times * size * 5 >= most) ?? 10;
  const interval = Math.max(1, step * size) * one;
  return { interval, max: Math.ceil((most * one) / interval) * interval };
}

/** A name with its day, above a point or at the head of a line. */
const toLabel = (name: string, point: CoursePoint | undefined, color: string) => ({
  ...{ show: name !== '' && point !== undefined, position: 'top', distance: 8, color, fontFamily: FONT, fontSize: 12, lineHeight: 15 },
  formatter: `${name}\n${point ? formatDay(point.date) : ''}`,
});

/** The day of the month, today's in bold; under the first of a month its name. */
function labelDay(points: readonly CoursePoint[], index: number, today: number): string {
  const point = points[index];
  if (!point) return '';
  const [, day = '', month = ''] = formatDay(point.date).split(' ');
  const isNew = index === 0 || formatDay(points[index - 1]!.date).split(' ')[2] !== month;
  return `${point.day === today ? `{now|${day}}` : day}${isNew ? `\n{month|${month}}` : ''}`;
}

/** A day in words, for the box that follows the pointer. */
export function describePoint(point: CoursePoint | undefined, format: (value: number) => string): string[] {
  if (!point) return [];
  const { planned, through, wrong, forecast, scope } = point;
  return [
    formatDay(point.date),
    ...(through === null ? [] : [`${format(through)} through`]),
    ...(wrong === null || wrong === 0 ? [] : [`${format(wrong)} went wrong`]),
    ...(planned === null ? [] : [`${format(planned)} planned`]),
    ...(forecast && through === null ? [`${format(forecast.low)} to ${format(forecast.high)} expected`] : []),
    `${format(scope)} in scope`,
  ];
}
