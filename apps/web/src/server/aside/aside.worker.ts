import type { MessagePort } from 'node:worker_threads';
import type { Tasks } from './tasks.ts';
import { TASKS } from './tasks.ts';

interface Task {
  readonly task: keyof Tasks;
  readonly given: readonly unknown[];
  /** Told that it begins now. */
  readonly begun: MessagePort;
}

/** What a thread of its own does: one task, and gives back what came of it. */
export default function perform({ task, given, begun }: Task): Promise<unknown> {
  begun.postMessage(null);
  begun.close();
  return (TASKS[task] as (...args: readonly unknown[]) => Promise<unknown>)(...given);
}
