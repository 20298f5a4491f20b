import { drawPaths } from '@kindred-baton/core/progress/forecast';
import type { ForecastRequest } from './course.worker.ts';

/** The second half of the paths, drawn beside the first. */
addEventListener('message', ({ data: { facts, options } }: MessageEvent<ForecastRequest>) => postMessage(drawPaths(facts, options, 1)));
