import type { MessagePort } from 'node:worker_threads';
import type { Readers } from './readers.ts';
import { READERS } from './readers.ts';

interface Task {
  readonly reader: keyof Readers;
  readonly given: readonly unknown[];
  /** Told that it begins now. */
  readonly begun: MessagePort;
}

/** What a thread of its own does: reads one file, and gives back what came of it. */
export default function read({ reader, given, begun }: Task): Promise<unknown> {
  begun.postMessage(null);
  begun.close();
  return (READERS[reader] as (...args: readonly unknown[]) => Promise<unknown>)(...given);
}
