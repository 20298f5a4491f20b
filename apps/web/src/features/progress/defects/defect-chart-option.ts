import type { DefectDayView } from '@kindred-baton/contracts/progress/defects';
import type { Severity } from '@kindred-baton/core/defects/defect';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { formatDay } from '../../../ui/format.ts';
import type { ChartLook } from '../chart/drawn-chart.tsx';
import { CHART_FONT } from '../chart/drawn-chart.tsx';

export interface DefectChartParts {
  readonly days: readonly DefectDayView[];
  readonly nameOf: (severity: Severity) => string;
}

/** The worse, the darker; the worst is hatched as well. */
const SHADES: readonly number[] = [1, 0.55, 0.3, 0.12];

/** Open defects by severity at the end of each day, the worst below; under them what was found that day, and what was fixed. */
export function toDefectChartOption({ days, nameOf }: DefectChartParts, { colours, isNarrow, toBox }: ChartLook) {
  const text = { fontFamily: CHART_FONT, color: colours.soft, fontSize: 12 };
  const side = { left: isNarrow ? 44 : 64, right: isNarrow ? 16 : 28 };
  const dates = days.map(({ date }) => date);
  const axis = { type: 'category', data: dates, axisTick: { show: false }, axisLine: { lineStyle: { color: colours.line } } } as const;
  const split = { lineStyle: { color: colours.line, opacity: 0.6 } };
  const bar = { type: 'bar', xAxisIndex: 1, yAxisIndex: 1, stack: 'day', barMaxWidth: 14, animation: false } as const;
  return {
    animation: false,
    textStyle: text,
    grid: [
      { ...side, top: 30, height: 150 },
      { ...side, top: 210, height: 76 },
    ],
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    tooltip: {
      ...{ trigger: 'axis', confine: true, backgroundColor: colours.sheet, borderColor: colours.line },
      textStyle: { ...text, color: colours.ink },
      formatter: (shown: unknown) => toBox(describeDefectDay(days[(shown as { readonly dataIndex: number }[])[0]?.dataIndex ?? 0], nameOf)),
    },
    xAxis: [
      { ...axis, gridIndex: 0, boundaryGap: true, axisLabel: { show: false } },
      { ...axis, gridIndex: 1, boundaryGap: true, axisLabel: { ...text, hideOverlap: true, formatter: (date: string) => formatDay(date) } },
    ],
    yAxis: [
      { type: 'value', gridIndex: 0, minInterval: 1, name: 'Open', nameTextStyle: text, axisLabel: text, splitLine: split },
      {
        ...{ type: 'value', gridIndex: 1, minInterval: 1, name: 'Found up, fixed down', nameTextStyle: { ...text, align: 'left' } },
        ...{ axisLabel: { ...text, formatter: (value: number) => String(Math.abs(value)) }, splitLine: split, splitNumber: 2 },
      },
    ],
    series: [
      ...SEVERITIES.map((severity, at) => ({
        ...{ type: 'bar', name: nameOf(severity), stack: 'open', barCategoryGap: '12%', animation: false },
        data: days.map(({ open }) => open[severity] ?? 0),
        itemStyle: {
          ...{ color: at === 0 ? colours.failed : colours.ink, opacity: SHADES[at] ?? 1 },
          ...(at === 0
            ? { decal: { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [2, 3], rotation: -0.8, color: colours.sheet } }
            : { decal: { symbol: 'none' } }),
        },
      })),
      { ...bar, name: 'Found', data: days.map(({ found }) => found), itemStyle: { color: colours.ink } },
      { ...bar, name: 'Fixed', data: days.map(({ fixed }) => -fixed), itemStyle: { color: colours.passed } },
    ],
  };
}

/** A day in words, for the box that follows the pointer. */
function describeDefectDay(day: DefectDayView | undefined, nameOf: (severity: Severity) => string): string[] {
  if (!day) return [];
  const { date, open, found, fixed, over, reopened } = day;
  return [
    formatDay(date),
    ...SEVERITIES.flatMap((severity) => ((open[severity] ?? 0) > 0 ? [`${open[severity]} open: ${nameOf(severity)}`] : [])),
    ...(found > 0 ? [`${found} found`] : []),
    ...(fixed > 0 ? [`${fixed} said to be fixed`] : []),
    ...(over > 0 ? [`${over} closed or declined`] : []),
    ...(reopened > 0 ? [`${reopened} opened again`] : []),
  ];
}
