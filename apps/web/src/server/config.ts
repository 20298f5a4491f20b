import { z } from 'zod';

const configSchema = z.object({
  DATABASE_URL: z.string().min(1, 'DATABASE_URL is not set; start with npm start, or name a PostgreSQL server.'),
  KINDRED_BATON_SECRET: z.string().min(16, 'KINDRED_BATON_SECRET should have at least 16 characters.'),
  /** The file of keys with which passwords of personas and doors are sealed; without it none can be set. */
  KINDRED_BATON_KEYS: z.string().min(1).optional(),
  /** Sign-ins allowed from one address in a minute; end-to-end tests raise it. */
  KINDRED_BATON_SIGN_INS_A_MINUTE: z.coerce.number().int().positive().default(20),
  /** Where the practice application stands; it is shown beside the demo's accounts. */
  KINDRED_BATON_PRACTICE_ADDRESS: z.url().optional(),
  KINDRED_BATON_DEMO_PASSWORD: z.string().default('pass-the-baton'),
  /** Where letters go out, smtp://… or smtps://…; without it they wait. */
  SMTP_URL: z
    .string()
    .regex(/^smtps?:\/\//, 'SMTP_URL begins with smtp:// or smtps://.')
    .optional(),
  KINDRED_BATON_MAIL_FROM: z.string().default('Kindred Baton <baton@localhost>'),
  /** The address at which people open this installation: it stands in letters. */
  KINDRED_BATON_ADDRESS: z.url().default(`http://127.0.0.1:${process.env['PORT'] ?? '4217'}`),
  LOG_LEVEL: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
});

export type Config = z.infer<typeof configSchema>;

let config: Config | undefined;

/** The environment, parsed once, when it is first asked for. */
export function getConfig(): Config {
  config ??= configSchema.parse(process.env);
  return config;
}
