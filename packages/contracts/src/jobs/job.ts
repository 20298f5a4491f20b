import { z } from 'zod';
import { JOB_STATES } from '@kindred-baton/core/jobs/job';
import { codeSchema, idSchema } from '../common.ts';

/** The formats that tests are written in. */
const TEST_FORMATS = ['xlsx', 'csv', 'feature', 'md', 'html', 'pdf', 'mjs', 'json'] as const;
export type TestFormat = (typeof TEST_FORMATS)[number];

const PAPERS = ['A4', 'Letter'] as const;

export const exportTestsSchema = z.object({
  format: z.enum(TEST_FORMATS),
  codes: z.array(codeSchema).min(1, 'Choose at least one test.').max(20_000),
  paper: z.enum(PAPERS).default('A4'),
});
export type ExportTests = z.infer<typeof exportTestsSchema>;

/** Work that takes a while: how far it is, and what came out. */
export const jobSchema = z.object({
  id: idSchema<'job'>(),
  state: z.enum(JOB_STATES),
  done: z.int(),
  total: z.int(),
  message: z.string().nullable(),
  fileName: z.string().nullable(),
});
export type JobView = z.infer<typeof jobSchema>;
