import { z } from 'zod';
import { idSchema } from '../common.ts';

/** What goes over the sockets of the window besides frames (core: window/frame), as JSON. */

const attempt = idSchema<'attempt'>();
const length = z.number().min(-100_000).max(1_000_000);

/** A runner says what it does: it looks at this place of the page for this step. */
export const runnerWordSchema = z.object({
  kind: z.literal('at'),
  ...{ attempt, step: z.int().min(0).max(10_000) },
  /** In CSS pixels of the page; null: nowhere yet. */
  place: z.object({ x: length, y: length, width: length, height: length }).nullable(),
});
export type RunnerWord = z.infer<typeof runnerWordSchema>;

/** The server says to a runner which of its attempts somebody looks at, and which nobody looks at any more. */
export const watchWordSchema = z.object({ kind: z.enum(['show', 'hide']), attempt });
export type WatchWord = z.infer<typeof watchWordSchema>;

/** The server says to whoever looks how the window stands: live; nobody shows it just now; the attempt has ended. */
export type WindowStands = 'live' | 'away' | 'over';
export type WindowWord = RunnerWord | { readonly kind: 'stands'; readonly stands: WindowStands; readonly watchers: number };
