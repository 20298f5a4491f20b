import { z } from 'zod';

/** What others changed, as it is told to open pages. A topic says which views to ask for again. */
const TOPICS = ['programme', 'map', 'tests', 'scenarios', 'cycles', 'turns', 'defects', 'runners', 'trials', 'boards'] as const;
export type Topic = (typeof TOPICS)[number];

export const changeEventSchema = z.object({ programmeId: z.string(), topic: z.enum(TOPICS) });
export type ChangeEvent = z.infer<typeof changeEventSchema>;
