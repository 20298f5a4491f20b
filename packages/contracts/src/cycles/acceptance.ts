import { z } from 'zod';
import { SIGN_OFF_DECISIONS } from '@kindred-baton/core/cycles/cycle';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { REQUIREMENT_STATES } from '@kindred-baton/core/requirements/requirement';
import { codeSchema, countsSchema, momentSchema, proofSchema } from '../common.ts';
import { exitResultSchema, reservationSchema } from './cycle.ts';

/** A node as its owner decides on it. */
const acceptedNodeSchema = z.object({
  ...{ code: z.string(), name: z.string(), depth: z.int(), owner: z.string().nullable(), isCritical: z.boolean() },
  /** It has another owner than the node above, or was decided on by itself. */
  isOwnDecision: z.boolean(),
  /** Whether the person who asks may decide on it. */
  canSign: z.boolean(),
  counts: countsSchema,
  criteria: z.array(exitResultSchema),
  openDefects: z.array(z.object({ code: z.string(), title: z.string(), severity: z.enum(SEVERITIES) })),
  requirements: z.array(z.object({ code: z.string(), title: z.string(), state: z.enum(REQUIREMENT_STATES), proof: proofSchema })),
  signOff: z
    .object({
      ...{ decision: z.enum(SIGN_OFF_DECISIONS), reason: z.string(), by: z.string(), at: momentSchema },
      ...{
        reservations: z.array(reservationSchema),
        counts: countsSchema,
        criteria: z.array(exitResultSchema),
        openDefects: z.array(z.string()),
      },
      /** The figures are others by now than those that were decided on. */
      hasMoved: z.boolean(),
    })
    .nullable(),
});

export const acceptanceSchema = z.object({
  state: z.string(),
  counts: countsSchema,
  criteria: z.array(exitResultSchema),
  nodes: z.array(acceptedNodeSchema),
});
export type Acceptance = z.infer<typeof acceptanceSchema>;
export type AcceptedNode = z.infer<typeof acceptedNodeSchema>;

export const signOffSchema = z
  .object({
    node: codeSchema,
    decision: z.enum(SIGN_OFF_DECISIONS),
    reason: z.string().trim().max(10_000).default(''),
    reservations: z.array(reservationSchema).max(100).default([]),
    /** The figures that were seen: others by now are a conflict. */
    seen: countsSchema,
  })
  .refine(({ decision, reason }) => decision !== 'refused' || reason !== '', { message: 'Say why it is refused.', path: ['reason'] })
  .refine(({ decision, reservations }) => decision !== 'accepted with reservations' || reservations.length > 0, {
    message: 'List what is not yet accepted, each with the day until which it is put right.',
    path: ['reservations'],
  });
export type SignOff = z.infer<typeof signOffSchema>;
