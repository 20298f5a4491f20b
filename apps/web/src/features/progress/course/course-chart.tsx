import { useCallback } from 'react';
import type { ChartLook, DrawnChartProps } from '../chart/drawn-chart.tsx';
import { DrawnChart } from '../chart/drawn-chart.tsx';
import type { CourseChartParts } from './chart-option.ts';
import { toChartOption } from './chart-option.ts';

interface CourseChartProps extends CourseChartParts, Pick<DrawnChartProps, 'label' | 'onReady'> {
  /** A day was pressed. */
  readonly onDay: (day: number) => void;
}

/** The picture of a course. */
export function CourseChart({ label, onDay, onReady, ...parts }: CourseChartProps) {
  const { points, today, plannedDay, median, late, format, unit, isOver } = parts;
  const toOption = useCallback(
    (look: ChartLook) => toChartOption({ points, today, plannedDay, median, late, format, unit, isOver }, look),
    [points, today, plannedDay, median, late, format, unit, isOver],
  );
  const open = (place: number) => {
    const point = points[place];
    if (point) onDay(point.day);
  };
  return <DrawnChart toOption={toOption} label={label} onPoint={open} onReady={onReady} />;
}
