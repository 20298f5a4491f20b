import { printDay } from '@kindred-baton/core/time/calendar';
import { exportTestsSchema } from '@kindred-baton/contracts/jobs/job';
import { loadTestsToExport } from '@kindred-baton/store/tests/load-tests-to-export';
import type { Call } from '../../call.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import { TEST_WRITERS } from './answer-test-formats.ts';

/** One test as a file, in its newest version. */
export async function answerTestExport({ ask, actor, url }: Call): Promise<Response> {
  const { format, codes, paper } = exportTestsSchema.parse({
    format: url.searchParams.get('format') ?? 'xlsx',
    codes: url.searchParams.getAll('code'),
    paper: url.searchParams.get('paper') ?? undefined,
  });
  const tests = await ask(loadTestsToExport, { codes });
  const title = tests.length === 1 ? `${tests[0]?.code ?? ''} ${tests[0]?.name ?? ''}` : `${tests.length} tests`;
  const bytes = await TEST_WRITERS[format](tests, {
    title,
    programme: actor.programmeName,
    day: printDay(Date.now(), actor.timeZone),
    paper,
  });
  return answerFile(bytes, { name: `${codes[0] ?? 'tests'}.${format}`, mediaType: MEDIA_TYPES[format] });
}
