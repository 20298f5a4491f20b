import { z } from 'zod';
import type { Id } from '@kindred-baton/core/ids';
import { isCalendarDate } from '@kindred-baton/core/values/check-value';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { STANDINGS } from '@kindred-baton/core/standing';
import { PRIORITIES } from '@kindred-baton/core/values/priority';

/** A branded id; the cast is here, where text from outside becomes an id. */
export const idSchema = <Kind extends string>() => z.uuid() as unknown as z.ZodType<Id<Kind>, string>;

export const daySchema = z.string().refine(isCalendarDate, 'Give a date as YYYY-MM-DD.');
export const momentSchema = z.iso.datetime();
export const codeSchema = z
  .string()
  .trim()
  .min(1, 'Give a code.')
  .max(40, 'A code has at most 40 characters.')
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, 'A code has letters, digits, points, hyphens and underscores only.');
/** Several of a kind in one parameter of an address, with commas between them. */
export const listOf = <Item extends z.ZodType>(item: Item) =>
  z.preprocess((value) => (typeof value === 'string' ? value.split(',') : value), z.array(item).min(1).max(60));
export const nameSchema = z.string().trim().min(1, 'Give a name.').max(200, 'A name has at most 200 characters.');
export const prioritySchema = z.enum(PRIORITIES);

export const countsSchema = z.object(
  Object.fromEntries(TURN_STATUSES.map((status) => [status, z.number()])) as Record<(typeof TURN_STATUSES)[number], z.ZodNumber>,
);

/** How a test stands over its turns in one cycle; null where no cycle has any. */
export const standingSchema = z.object({ standing: z.enum(STANDINGS), cycle: z.string(), turns: z.int(), passed: z.int() }).nullable();

/** Over which turns of which cycles a requirement's tests were counted. */
export const proofSchema = z.object({
  cycles: z.array(z.object({ cycle: z.string(), turns: z.int(), passed: z.int() })),
  untried: z.int(),
});

export const minutesSchema = z.int('Give whole minutes.').min(1, 'At least one minute.').max(10_000, 'At most 10,000 minutes.');

export const personSchema = z.object({ id: idSchema<'person'>(), name: z.string() });
export const namedSchema = z.object({ id: z.uuid(), name: z.string() });
export const codedSchema = z.object({ id: z.uuid(), code: z.string(), name: z.string() });

export const doneSchema = z.object({ done: z.literal(true) });
export const DONE: z.infer<typeof doneSchema> = { done: true };

/** Which page of a list it is, from 1; where it begins, from 0; and how many entries there are in all (core/tables/pages). */
export const placedPageSchema = z.object({ page: z.int(), from: z.int(), size: z.int() });

/** A picture or file that is kept with a step. */
export const evidenceSchema = z.object({
  id: idSchema<'evidence'>(),
  stepIndex: z.int(),
  name: z.string(),
  mediaType: z.string(),
  size: z.int(),
});
export type EvidenceView = z.infer<typeof evidenceSchema>;

/** An address of the web: what is typed without https:// is taken with it. */
export const addressSchema = z
  .string()
  .trim()
  .max(2_000)
  .transform((text) => (/^[a-z][a-z0-9+.-]*:\/\//i.test(text) ? text : `https://${text}`))
  .pipe(z.url({ protocol: /^https?$/, error: 'That is no address; write it like https://example.org.' }));

/** Long lists by columns (core: tables/pack-rows). */
export const packedRowsSchema = z.object({
  columns: z.record(z.string(), z.array(z.unknown())),
  among: z.record(z.string(), z.array(z.unknown())),
});
