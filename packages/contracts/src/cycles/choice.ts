import { CYCLE_GROUPS } from '@kindred-baton/core/cycles/cycle-groups';
import { z } from 'zod';
import { codeSchema, listOf } from '../common.ts';

/** Cycles by their codes. */
export const cyclesSchema = listOf(codeSchema);

const groupSchema = z.enum(CYCLE_GROUPS);

/** Cycles by their codes, or a group that is what it is at the moment. */
export const cycleChoiceSchema = z.union([groupSchema, cyclesSchema]);
export type CycleChoice = z.infer<typeof cycleChoiceSchema>;

/** For what looks at one cycle: of several, the first; of a group, the current one. */
export const oneCycleSchema = cycleChoiceSchema.optional().transform((choice) => (Array.isArray(choice) ? choice[0] : undefined));
