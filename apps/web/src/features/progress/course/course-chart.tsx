import { useEffect, useRef, useState } from 'react';
import type { ChartColours, ChartParts } from './chart-option.ts';
import { toChartOption } from './chart-option.ts';

type Shown = Omit<ChartParts, 'colours' | 'isNarrow' | 'toBox'>;

interface CourseChartProps extends Shown {
  /** What the picture says, for who does not see it. */
  readonly label: string;
  /** A day was pressed. */
  readonly onDay: (day: number) => void;
  /** Gives what the picture is saved with. */
  readonly onReady: (save: (() => string) | null) => void;
}

const NARROW_PX = 560;
const COLOURS = {
  ink: 'ink',
  soft: 'soft',
  line: 'line',
  passed: 'passed',
  failed: 'failed',
  baton: 'baton',
  tint: 'baton-tint',
  sheet: 'sheet',
} as const;

/** The picture of a course. The chart library comes when it is first drawn. */
export function CourseChart({ label, onDay, onReady, ...parts }: CourseChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const [chart, setChart] = useState<Awaited<ReturnType<typeof load>> | null>(null);
  const theme = useThemeChanges();
  const latest = useRef(onDay);
  useEffect(() => {
    latest.current = onDay;
  });
  useEffect(() => {
    const own = box.current;
    if (!own) return undefined;
    let made: Awaited<ReturnType<typeof load>> | null = null;
    let isGone = false;
    const watch = new ResizeObserver(() => made?.resize());
    load(own).then(
      (loaded) => {
        if (isGone) return loaded.dispose();
        made = loaded;
        watch.observe(own);
        setChart(loaded);
      },
      () => undefined,
    );
    return () => {
      isGone = true;
      watch.disconnect();
      made?.dispose();
    };
  }, []);
  useEffect(() => {
    const own = box.current;
    if (!chart || !own) return;
    chart.setOption(toChartOption({ ...parts, colours: readColours(own), isNarrow: own.clientWidth < NARROW_PX, toBox }) as never, true);
    onReady(() => chart.renderToSVGString());
  }, [chart, parts, theme, onReady]);
  useEffect(() => {
    if (!chart) return undefined;
    const open = ({ offsetX, offsetY }: { readonly offsetX: number; readonly offsetY: number }) => {
      if (!chart.containPixel('grid', [offsetX, offsetY])) return;
      const [at = 0] = chart.convertFromPixel({ seriesIndex: 0 }, [offsetX, offsetY]);
      const point = parts.points[Math.round(at)];
      if (point) latest.current(point.day);
    };
    chart.getZr().on('click', open);
    return () => chart.getZr().off('click', open);
  }, [chart, parts.points]);
  return <div ref={box} role="img" aria-label={label} className="h-[330px] w-full" />;
}

const load = (box: HTMLDivElement) => import('./echarts.ts').then(({ init }) => init(box, undefined, { renderer: 'svg' }));

function toBox(lines: readonly string[]): HTMLElement {
  const box = document.createElement('div');
  lines.forEach((line, at) => {
    const own = document.createElement(at === 0 ? 'strong' : 'div');
    own.textContent = line;
    box.append(own);
  });
  return box;
}

function readColours(box: HTMLElement): ChartColours {
  const probe = document.createElement('span');
  box.append(probe);
  const read = (name: string) => {
    probe.style.color = `var(--${name})`;
    return getComputedStyle(probe).color;
  };
  const colours = Object.fromEntries(Object.entries(COLOURS).map(([key, name]) => [key, read(name)]));
  probe.remove();
  return colours as unknown as ChartColours;
}

/** Another number after each change between light and dark. */
function useThemeChanges(): number {
  const [changes, setChanges] = useState(0);
  useEffect(() => {
    const note = () => setChanges((before) => before + 1);
    const scheme = matchMedia('(prefers-color-scheme: dark)');
    const watch = new MutationObserver(note);
    watch.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    scheme.addEventListener('change', note);
    return () => {
      watch.disconnect();
      scheme.removeEventListener('change', note);
    };
  }, []);
  return changes;
}
