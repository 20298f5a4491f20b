/** The other half of the paths, in a thread of its own. */
import { parentPort } from 'node:worker_threads';
import { drawPaths } from '@kindred-baton/core/progress/forecast';

parentPort!.on('message', ({ facts, options }: { facts: Parameters<typeof drawPaths>[0]; options: Parameters<typeof drawPaths>[1] }) =>
  parentPort!.postMessage(drawPaths(facts, options, 1)),
);
