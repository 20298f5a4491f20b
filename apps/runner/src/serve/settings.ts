import { z } from 'zod';

const settingsSchema = z.object({
  KINDRED_BATON_RUNNER_ADDRESS: z
    .url('KINDRED_BATON_RUNNER_ADDRESS should be the address of the programme, like http://host:4217/brindlemere.')
    .refine((address) => /^\/[a-z][a-z0-9-]*\/?$/.test(new URL(address).pathname), {
      message: 'KINDRED_BATON_RUNNER_ADDRESS should end with the programme, like http://host:4217/brindlemere.',
    }),
  KINDRED_BATON_RUNNER_TOKEN: z.string().optional(),
  KINDRED_BATON_RUNNER_TOKEN_FILE: z.string().optional(),
  KINDRED_BATON_RUNNER_FOLDER: z.string().min(1).default('./kindred-baton-runner'),
  KINDRED_BATON_RUNNER_SESSIONS: z.coerce.number().int().min(1).max(64, 'A runner has from 1 to 64 sessions.').default(2),
  /** How long a thing may take to come; slow applications want more. */
  KINDRED_BATON_RUNNER_PATIENCE_SECONDS: z.coerce.number().min(0.5).max(600, 'A runner waits for at most 600 s.').default(10),
  CHROMIUM_PATH: z.string().default('/usr/bin/chromium'),
});

export interface RunnerSettings {
  readonly address: string;
  readonly token: string;
  readonly folder: string;
  readonly sessions: number;
  readonly chromium: string;
  readonly patienceMs: number;
}

/** What a runner is started with. Throws a sentence where something is missing or wrong. */
export function readSettings(env: Readonly<Record<string, string | undefined>>, readFile: (file: string) => string): RunnerSettings {
  const read = settingsSchema.safeParse(env);
  if (!read.success)
    throw new Error(
      read.error.issues.map(({ path, message }) => (message.includes('RUNNER') ? message : `${path.join('.')}: ${message}`)).join(' '),
    );
  const given = read.data;
  const file = given.KINDRED_BATON_RUNNER_TOKEN_FILE;
  const token = (given.KINDRED_BATON_RUNNER_TOKEN ?? (file === undefined ? '' : readFile(file))).trim();
  if (token === '')
    throw new Error(
      'Give the token that was shown when the runner was added: KINDRED_BATON_RUNNER_TOKEN, or a file with it in KINDRED_BATON_RUNNER_TOKEN_FILE.',
    );
  return {
    ...{ address: given.KINDRED_BATON_RUNNER_ADDRESS, token, folder: given.KINDRED_BATON_RUNNER_FOLDER },
    ...{
      sessions: given.KINDRED_BATON_RUNNER_SESSIONS,
      chromium: given.CHROMIUM_PATH,
      patienceMs: given.KINDRED_BATON_RUNNER_PATIENCE_SECONDS * 1_000,
    },
  };
}
