import { z } from 'zod';
import { DEFECT_KINDS, DEFECT_STATUSES, SEVERITIES } from '@kindred-baton/core/defects/defect';
import { TURN_STATUSES } from '@kindred-baton/core/turns/turn';
import { idSchema, momentSchema, prioritySchema } from '../common.ts';
import { evidenceSchema } from '../turns/turn.ts';

const defectBase = {
  code: z.string(),
  title: z.string(),
  kind: z.enum(DEFECT_KINDS),
  severity: z.enum(SEVERITIES),
  priority: prioritySchema,
  status: z.enum(DEFECT_STATUSES),
  team: z.string().nullable(),
  cycle: z.object({ code: z.string(), name: z.string() }),
  foundAt: momentSchema,
  foundBy: z.string(),
};

export const defectListSchema = z.object({ defects: z.array(z.object({ ...defectBase, node: z.string().nullable(), waiting: z.int() })) });
export type DefectList = z.infer<typeof defectListSchema>;
export type DefectListItem = DefectList['defects'][number];

export const defectDetailSchema = z.object({
  ...defectBase,
  id: idSchema<'defect'>(),
  stepIndex: z.int(),
  expected: z.string(),
  seen: z.string(),
  steps: z.array(z.string()),
  environment: z.string(),
  browser: z.string(),
  reason: z.string(),
  evidence: z.array(evidenceSchema),
  turns: z.array(
    z.object({
      id: idSchema<'turn'>(),
      title: z.string(),
      status: z.enum(TURN_STATUSES),
      scenario: z.string(),
      assignee: z.string().nullable(),
      isRetestDue: z.boolean(),
    }),
  ),
  waiting: z.object({ turns: z.int(), runs: z.int(), teams: z.int(), minutes: z.int() }),
  history: z.array(z.object({ action: z.string(), by: z.string().nullable(), at: momentSchema })),
});
export type DefectDetail = z.infer<typeof defectDetailSchema>;

export const logDefectSchema = z.object({
  id: idSchema<'defect'>(),
  attemptId: idSchema<'attempt'>(),
  stepIndex: z.int().min(0),
  title: z.string().trim().min(3, 'Say in a few words what is wrong.').max(200),
  kind: z.enum(DEFECT_KINDS),
  severity: z.enum(SEVERITIES),
  priority: prioritySchema,
  expected: z.string().trim().max(10_000),
  seen: z.string().trim().min(1, 'Say what you saw.').max(10_000),
});
export type LogDefect = z.infer<typeof logDefectSchema>;

export const moveDefectSchema = z
  .object({ from: z.enum(DEFECT_STATUSES), to: z.enum(DEFECT_STATUSES), reason: z.string().trim().max(2_000).default('') })
  .refine((move) => move.to !== 'declined' || move.reason !== '', { message: 'Say why it is declined.', path: ['reason'] });
export type MoveDefect = z.infer<typeof moveDefectSchema>;
