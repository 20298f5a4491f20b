import { useEffect, useRef, useState } from 'react';

export const CHART_FONT = 'Atkinson Hyperlegible Next Variable, system-ui, sans-serif';

export interface ChartColours {
  readonly ink: string;
  readonly soft: string;
  readonly line: string;
  readonly passed: string;
  readonly failed: string;
  readonly baton: string;
  readonly tint: string;
  readonly sheet: string;
}

/** What a drawing is made for. */
export interface ChartLook {
  readonly colours: ChartColours;
  readonly isNarrow: boolean;
  /** The box that follows the pointer, from its lines. */
  readonly toBox: (lines: readonly string[]) => HTMLElement;
}

export interface DrawnChartProps {
  /** What the chart library draws; the same function while the same is drawn. */
  readonly toOption: (look: ChartLook) => object;
  /** What the picture says, for who does not see it. */
  readonly label: string;
  /** The point of the axis that was pressed, from 0. */
  readonly onPoint: (place: number) => void;
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

/** A picture by the chart library, which comes when it is first drawn; in the colours of the page, and drawn again as they change. */
export function DrawnChart({ toOption, label, onPoint, onReady }: DrawnChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const [chart, setChart] = useState<Awaited<ReturnType<typeof load>> | null>(null);
  const theme = useThemeChanges();
  const latest = useRef(onPoint);
  useEffect(() => {
    latest.current = onPoint;
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
    chart.setOption(toOption({ colours: readColours(own), isNarrow: own.clientWidth < NARROW_PX, toBox }) as never, true);
    onReady(() => chart.renderToSVGString());
  }, [chart, toOption, theme, onReady]);
  useEffect(() => {
    if (!chart) return undefined;
    const open = ({ offsetX, offsetY }: { readonly offsetX: number; readonly offsetY: number }) => {
      if (!chart.containPixel('grid', [offsetX, offsetY])) return;
      const [at = 0] = chart.convertFromPixel({ seriesIndex: 0 }, [offsetX, offsetY]);
      latest.current(Math.round(at));
    };
    chart.getZr().on('click', open);
    return () => chart.getZr().off('click', open);
  }, [chart]);
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
