import type { CourseFacts, CourseUnit } from '@kindred-baton/core/progress/course';
import type { TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { useEffect, useState } from 'react';
import type { ForecastMessage, ForecastRequest } from './course.worker.ts';

interface Forecasting {
  /** The one before stays until the next is there. */
  readonly forecast: Forecast | null;
  /** null while they are tried. */
  readonly remedies: readonly TriedRemedy[] | null;
  readonly hasFailed: boolean;
}

const NOTHING: Forecasting = { forecast: null, remedies: null, hasFailed: false };

/** When it will end and what would help, drawn in a worker whenever what it is drawn from changes; null facts: nothing is asked. */
export function useForecast(facts: CourseFacts | null, plannedDay: number, unit: CourseUnit): Forecasting {
  const [found, setFound] = useState<Forecasting & { readonly unit: CourseUnit }>({ ...NOTHING, unit });
  useEffect(() => {
    if (!facts) return undefined;
    const worker = new Worker(new URL('./course.worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<ForecastMessage>) => {
      if (data.kind === 'forecast') return setFound({ forecast: data.forecast, remedies: null, hasFailed: false, unit });
      setFound((before) => ({ ...before, remedies: data.remedies }));
      worker.terminate();
    });
    worker.addEventListener('error', () => setFound({ ...NOTHING, hasFailed: true, unit }));
    worker.postMessage({ facts, options: { unit, plannedDay } } satisfies ForecastRequest);
    return () => worker.terminate();
  }, [facts, plannedDay, unit]);
  return facts && found.unit === unit ? found : NOTHING;
}
