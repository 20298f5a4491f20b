import type { MessagePort } from 'node:worker_threads';
import type { Tasks, WhileAside } from './tasks.ts';
import type { AppError } from '@kindred-baton/contracts/errors';
import { toAppError } from '../answer-error.ts';
import { TASKS } from './tasks.ts';

interface Task {
  readonly task: keyof Tasks;
  readonly given: readonly unknown[];
  /** Told that it begins now, and when it has read and stores; tells when nobody wants it any more. */
  readonly begun: MessagePort;
}

/** What a thread says while it works. */
export type Phase = 'begins' | 'stores';

/** What came of it; a refusal crosses from thread to thread in its parts, since a class does not. */
export type Done =
  { readonly ok: true; readonly value: unknown } | ({ readonly ok: false } & Pick<AppError, 'code' | 'message' | 'details'>);

/** What a thread of its own does: one task, and gives back what came of it. */
export default async function perform({ task, given, begun }: Task): Promise<Done> {
  const say = (phase: Phase) => begun.postMessage(phase);
  const leaving = new AbortController();
  begun.once('message', () => leaving.abort());
  say('begins');
  const meanwhile: WhileAside = { sayStores: () => say('stores'), leave: leaving.signal };
  try {
    const value = await (TASKS[task] as (...args: readonly unknown[]) => Promise<unknown>)(...given, meanwhile);
    return { ok: true, value };
  } catch (error) {
    const refused = toAppError(error);
    // What nobody foresaw keeps its trace.
    if (refused.code === 'broken') throw error;
    return { ok: false, code: refused.code, message: refused.message, details: refused.details };
  } finally {
    begun.close();
  }
}
