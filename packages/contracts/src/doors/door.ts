import { z } from 'zod';
import { DOOR_KINDS, DOOR_SIGN_INS } from '@kindred-baton/core/doors/door';
import { idSchema, nameSchema } from '../common.ts';

const placeSchema = z.object({ environmentId: idSchema<'environment'>(), applicationId: idSchema<'application'>() });

const doorSchema = placeSchema.extend({
  id: idSchema<'door'>(),
  name: z.string(),
  kind: z.enum(DOOR_KINDS),
  address: z.string(),
  signIn: z.enum(DOOR_SIGN_INS),
  userName: z.string(),
  /** That there is one is said, and nothing more of it. */
  hasSecret: z.boolean(),
});
export type DoorView = z.infer<typeof doorSchema>;
export const doorListSchema = z.object({ doors: z.array(doorSchema) });

const PROTOCOLS = { interface: ['http:', 'https:'], database: ['postgresql:', 'postgres:'] } as const;
/** Of a database all else that a connection could be given by its address is not for whoever sets it up to say. */
const PARAMETERS = new Set(['sslmode']);
const HEADER_FIELD = /^[A-Za-z0-9!#$%&'*+.^_`|~-]+$/;

export const saveDoorSchema = placeSchema
  .extend({
    name: nameSchema,
    kind: z.enum(DOOR_KINDS),
    address: z.string().trim().max(2_000),
    signIn: z.enum(DOOR_SIGN_INS).default('none'),
    userName: z.string().trim().max(200).default(''),
    /** Left out: the one that is there stays, where the address does. Empty: there is none any more. */
    secret: z.string().max(5_000).optional(),
  })
  .superRefine(({ kind, address, signIn, userName }, { addIssue }) => {
    const say = (path: string, message: string) => addIssue({ code: 'custom', path: [path], message });
    const example = kind === 'interface' ? 'https://host/api' : 'postgresql://host:5432/database';
    const url = URL.canParse(address) ? new URL(address) : undefined;
    if (!url || !PROTOCOLS[kind].some((protocol) => protocol === url.protocol)) say('address', `Write it like ${example}.`);
    else if (url.username + url.password !== '')
      say('address', 'User and password do not stand in the address: they have fields of their own.');
    else if (kind === 'interface' && url.search + url.hash !== '')
      say('address', 'It ends where the paths of questions begin, without ? and #.');
    else if (kind === 'database' && [...url.searchParams.keys()].some((name) => !PARAMETERS.has(name)))
      say('address', 'Behind the ? it may say sslmode, and nothing else.');
    if (kind === 'database' && userName === '') say('userName', 'Say with which user the database is read.');
    if (kind === 'interface' && signIn === 'basic' && userName === '') say('userName', 'Say the user.');
    if (kind === 'interface' && signIn === 'header' && !HEADER_FIELD.test(userName))
      say('userName', 'Say the field of the header, such as X-Api-Key.');
  });
export type SaveDoor = z.infer<typeof saveDoorSchema>;

/** What came of asking a door. */
export const doorAnswerSchema = z.object({
  isAnswered: z.boolean(),
  /** The answer as text, or why there is none. */
  text: z.string(),
  /** What the steps that follow find in it. */
  looks: z.array(z.object({ holds: z.boolean(), actual: z.string() })),
});
export type DoorAnswer = z.infer<typeof doorAnswerSchema>;
