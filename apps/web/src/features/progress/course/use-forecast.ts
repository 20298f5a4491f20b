import type { CourseFacts, CourseUnit } from '@kindred-baton/core/progress/course';
import type { TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { useEffect, useRef, useState } from 'react';
import type { Told } from './forecaster.ts';
import { createForecaster } from './forecaster.ts';

interface Forecasting {
  /** The one before stays until the next is there. */
  readonly forecast: Forecast | null;
  /** null while they are tried. */
  readonly remedies: readonly TriedRemedy[] | null;
  readonly hasFailed: boolean;
}

const NOTHING: Forecasting = { forecast: null, remedies: null, hasFailed: false };

interface Asked {
  /** null: nothing is asked. */
  readonly facts: CourseFacts | null;
  readonly plannedDay: number;
  readonly unit: CourseUnit;
  /** Cycle and branch. */
  readonly of: string;
}

/** When it will end and what would help, drawn in a worker whenever what it is drawn from changes. */
export function useForecast({ facts, plannedDay, unit, of }: Asked): Forecasting {
  const about = `${of} ${unit}`;
  const [found, setFound] = useState<Forecasting & Pick<Told, 'about'>>({ ...NOTHING, about });
  const forecaster = useRef<ReturnType<typeof createForecaster> | null>(null);
  useEffect(() => {
    if (!facts) return;
    forecaster.current ??= createForecaster(
      () => new Worker(new URL('./course.worker.ts', import.meta.url), { type: 'module' }),
      (told) => setFound((before) => ({ about: told.about, ...note(before.about === told.about ? before : NOTHING, told) })),
    );
    forecaster.current.ask(about, { facts, options: { unit, plannedDay } });
  }, [facts, plannedDay, unit, about]);
  useEffect(
    () => () => {
      forecaster.current?.stop();
      forecaster.current = null;
    },
    [],
  );
  return facts && found.about === about ? found : NOTHING;
}

function note(before: Forecasting, { message }: Told): Forecasting {
  if (!message) return { ...before, hasFailed: true };
  if (message.kind === 'remedies') return { ...before, remedies: message.remedies, hasFailed: false };
  return { ...before, forecast: message.forecast, hasFailed: false };
}
