import type { CourseFacts } from '@kindred-baton/core/progress/course';
import type { TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import { findRemedies } from '@kindred-baton/core/progress/find-remedies';
import type { DrawnPaths, Forecast, ForecastOptions } from '@kindred-baton/core/progress/forecast';
import { drawPaths, forecastCourse } from '@kindred-baton/core/progress/forecast';

export interface ForecastRequest {
  readonly facts: CourseFacts;
  readonly options: Pick<ForecastOptions, 'unit' | 'plannedDay'>;
}

export type ForecastMessage =
  { readonly kind: 'forecast'; readonly forecast: Forecast } | { readonly kind: 'remedies'; readonly remedies: readonly TriedRemedy[] };

addEventListener('message', ({ data }: MessageEvent<ForecastRequest>) => void answer(data));

async function answer({ facts, options }: ForecastRequest): Promise<void> {
  const send = (message: ForecastMessage) => postMessage(message);
  const others = drawBeside({ facts, options });
  const own = drawPaths(facts, options, 0);
  send({ kind: 'forecast', forecast: forecastCourse(facts, options, [own, await others]) });
  send({ kind: 'remedies', remedies: findRemedies(facts, options) });
}

/** The second half of the paths by a thread of its own; where there is none to be had, by this one. */
function drawBeside(request: ForecastRequest): Promise<DrawnPaths> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('./paths.worker.ts', import.meta.url), { type: 'module' });
    const end = (paths: DrawnPaths) => {
      worker.terminate();
      resolve(paths);
    };
    worker.addEventListener('message', ({ data }: MessageEvent<DrawnPaths>) => end(data));
    worker.addEventListener('error', () => end(drawPaths(request.facts, request.options, 1)));
    worker.postMessage(request);
  });
}
