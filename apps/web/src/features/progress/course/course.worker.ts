import type { CourseFacts } from '@kindred-baton/core/progress/course';
import type { TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import { findRemedies } from '@kindred-baton/core/progress/find-remedies';
import type { Forecast, ForecastOptions } from '@kindred-baton/core/progress/forecast';
import { forecastCourse } from '@kindred-baton/core/progress/forecast';

export interface ForecastRequest {
  readonly facts: CourseFacts;
  readonly options: Pick<ForecastOptions, 'unit' | 'plannedDay'>;
}

export type ForecastMessage =
  { readonly kind: 'forecast'; readonly forecast: Forecast } | { readonly kind: 'remedies'; readonly remedies: readonly TriedRemedy[] };

addEventListener('message', ({ data: { facts, options } }: MessageEvent<ForecastRequest>) => {
  const send = (message: ForecastMessage) => postMessage(message);
  const forecast = forecastCourse(facts, options);
  send({ kind: 'forecast', forecast });
  send({ kind: 'remedies', remedies: findRemedies(facts, options) });
});
