/** Takes a programme out into one open file, or in from one. Called by programme.mjs. */
import { readFileSync, writeFileSync } from 'node:fs';
import { AppError } from '@kindred-baton/contracts/errors';
import { readProgrammeFile, writeProgrammeFile } from '@kindred-baton/formats/programmes/programme-file';
import { createStore } from '@kindred-baton/store/database';
import { takeProgrammeIn } from '@kindred-baton/store/programmes/take-in';
import { takeProgrammeOut } from '@kindred-baton/store/programmes/take-out';

const [what, key = '', file = ''] = process.argv.slice(2);
const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set.');
const store = createStore({ url });
const say = (text: string) => process.stdout.write(`${text}\n`);

async function takeOut(): Promise<void> {
  const bytes = writeProgrammeFile(await takeProgrammeOut(store, key));
  writeFileSync(file, bytes, { flag: 'wx' });
  say(`${file} (${(bytes.length / 1_048_576).toFixed(1)} MB) holds the programme /${key}, with its pictures; no passwords, no letters.`);
}

async function takeIn(): Promise<void> {
  const read = readProgrammeFile(readFileSync(file));
  if (!read.ok) throw new AppError('invalid', read.message);
  const as = key || String(read.file.programme['key']);
  const { newPeople } = await takeProgrammeIn(store, read.file, { key: as });
  say(`The programme is at /${as}.`);
  if (newPeople.length > 0)
    say(
      `${newPeople.length} people are new here and have no password yet; each asks for one on the sign-in page: ${newPeople.slice(0, 5).join(', ')}${newPeople.length > 5 ? ' …' : ''}`,
    );
}

try {
  await (what === 'out' ? takeOut() : takeIn());
} catch (error) {
  if (!(error instanceof AppError) && (error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  say(error instanceof AppError ? error.message : `There is a file ${file} already. Choose another name.`);
  process.exitCode = 1;
} finally {
  await store.pool.end();
}
