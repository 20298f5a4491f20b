import { ROW_KIND_NAMES } from '@kindred-baton/core/extracts/row-kinds';
import { z } from 'zod';
import { codeSchema, idSchema, momentSchema, nameSchema } from '../common.ts';
import { cycleChoiceSchema } from '../cycles/choice.ts';
import { turnFilters } from '../turns/turn.ts';

export const rowKindSchema = z.enum(ROW_KIND_NAMES);

/** json: a page of rows, and how it goes on; jsonl: all, a row in each line. */
const ROW_FORMATS = ['csv', 'jsonl', 'json', 'xlsx'] as const;
const ROWS_A_PAGE = 1_000;
const MOST_ROWS_A_PAGE = 5_000;

/** A filter that is not known is refused: dropped, it would give out all rows as if they were those that were asked for. */
export const rowsQuerySchema = z.strictObject(
  {
    ...turnFilters,
    cycle: cycleChoiceSchema.optional(),
    scope: codeSchema.optional(),
    format: z.enum(ROW_FORMATS).default('csv'),
    /** What was done, found or came to hand since; a day or a moment. */
    since: z.union([z.iso.date(), z.iso.datetime({ offset: true })]).optional(),
    /** Of a page of JSON: behind which row it begins, as the page before said, and how many it has. */
    after: z.string().max(100).optional(),
    limit: z.coerce.number().int().min(1).max(MOST_ROWS_A_PAGE).default(ROWS_A_PAGE),
    /** Of an address that is read without signing in. */
    token: z.string().max(200).optional(),
  },
  { error: (issue) => (issue.code === 'unrecognized_keys' ? `Rows are not narrowed by ${issue.keys.join(' or ')}.` : undefined) },
);
export type RowsQuery = z.infer<typeof rowsQuerySchema>;

export const addAddressSchema = z.object({ name: nameSchema, daysValid: z.int().min(1).max(730).nullable() });
export type AddAddress = z.infer<typeof addAddressSchema>;

const addressSchema = z.object({
  id: idSchema<'dataAddress'>(),
  name: z.string(),
  addedAt: momentSchema,
  expiresAt: momentSchema.nullable(),
  usedAt: momentSchema.nullable(),
});
export const addressesSchema = z.array(addressSchema);
export type DataAddressView = z.infer<typeof addressSchema>;
/** The token is told once. */
export const addedAddressSchema = z.object({ id: idSchema<'dataAddress'>(), token: z.string() });
