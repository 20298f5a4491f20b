import { printDay } from '@kindred-baton/core/time/calendar';
import { exportTestsSchema } from '@kindred-baton/contracts/jobs/job';
import type { ExportTests } from '@kindred-baton/contracts/jobs/job';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { getActor } from '@kindred-baton/store/actor';
import type { ClaimedJob } from '@kindred-baton/store/jobs/work-on-job';
import { ask } from '@kindred-baton/store/operation';
import { loadTestsToExport } from '@kindred-baton/store/tests/load-tests-to-export';
import { zipSync } from 'fflate';
import { MEDIA_TYPES } from '../../answer-file.ts';
import { getStore } from '../../store.ts';
import type { Report } from '../../worker.ts';
import { TEST_WRITERS } from './answer-test-formats.ts';

const AT_ONCE = 20;
/** Tables hold all tests in one file; documents are a file each, in a ZIP. */
const IN_ONE_FILE: ReadonlySet<ExportTests['format']> = new Set(['xlsx', 'csv']);

/** Writes many tests out, in the name and with the rights of who asked. Reports after every few; ends early when it is to stop. */
export async function exportTests(job: ClaimedJob, report: Report) {
  const { format, codes, paper } = exportTestsSchema.parse(job.input);
  const actor = await getActor(getStore(), job.personId, job.programmeKey);
  const head = { programme: actor.programmeName, day: printDay(Date.now(), actor.timeZone), paper };
  const write = TEST_WRITERS[format];
  const files: Record<string, Uint8Array> = {};
  const all: ExportedTest[] = [];
  for (let from = 0; from < codes.length; from += AT_ONCE) {
    const tests = await ask(getStore(), actor, loadTestsToExport, { codes: codes.slice(from, from + AT_ONCE) });
    if (IN_ONE_FILE.has(format)) all.push(...tests);
    else
      for (const [index, test] of tests.entries()) {
        files[`${test.code}.${format}`] = await write([test], { ...head, title: `${test.code} ${test.name}` });
        if (format === 'pdf' && !(await report(from + index + 1))) return undefined;
      }
    if (!(await report(Math.min(codes.length, from + AT_ONCE)))) return undefined;
  }
  const name = `${job.programmeKey}-tests`;
  if (IN_ONE_FILE.has(format)) {
    const content = await write(all, { ...head, title: `${all.length} tests` });
    return { state: 'done' as const, content, fileName: `${name}.${format}`, mediaType: MEDIA_TYPES[format] };
  }
  return { state: 'done' as const, content: zipSync(files), fileName: `${name}.zip`, mediaType: MEDIA_TYPES.zip };
}
