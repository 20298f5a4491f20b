import type { MadeRows, MakeRowsInput } from '@kindred-baton/core/rows/make-rows';
import { makeRows } from '@kindred-baton/core/rows/make-rows';
import type { CoverProgress } from '@kindred-baton/core/rows/cover-rows';

export type RowsMessage =
  { readonly kind: 'progress'; readonly progress: CoverProgress } | { readonly kind: 'done'; readonly made: MadeRows };

const REPORT_MS = 80;

addEventListener('message', ({ data }: MessageEvent<MakeRowsInput>) => {
  const work = makeRows(data);
  let reportedAt = performance.now();
  for (let step = work.next(); ; step = work.next()) {
    if (step.done) return postMessage({ kind: 'done', made: step.value } satisfies RowsMessage);
    if (performance.now() - reportedAt < REPORT_MS) continue;
    reportedAt = performance.now();
    postMessage({ kind: 'progress', progress: step.value } satisfies RowsMessage);
  }
});
