import { z } from 'zod';

const problemSchema = z.object({ sheet: z.string(), row: z.int().optional(), column: z.string().optional(), message: z.string() });

export const importPreviewSchema = z.object({
  file: z.string(),
  /** Names exactly this content; accepting sends it again with this, so that what was seen is what is stored. */
  fingerprint: z.string(),
  nodes: z.array(z.object({ code: z.string(), name: z.string(), parent: z.string().nullable() })),
  tests: z.array(
    z.object({
      code: z.string(),
      name: z.string(),
      activity: z.string(),
      steps: z.int(),
      needs: z.array(z.string()),
      gives: z.array(z.string()),
    }),
  ),
  scenarios: z.array(
    z.object({ code: z.string(), name: z.string(), legs: z.int(), openLegs: z.int(), rows: z.int(), findings: z.array(z.string()) }),
  ),
  alreadyThere: z.object({ nodes: z.int(), tests: z.int(), scenarios: z.int() }),
  problems: z.array(problemSchema),
  isStored: z.boolean(),
});
export type ImportPreview = z.infer<typeof importPreviewSchema>;
