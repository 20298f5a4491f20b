import { AppError } from '@kindred-baton/contracts/errors';

/**
 * Answers that several wait for are worked out once. Whoever asks while the same is under way waits for the *next* time, which begins when this one
 * ends and is shared by all who came meanwhile: so an answer is never older than the question, and a crowd costs two readings, not a hundred.
 */
export interface Sharing {
  /** `leave` of the reader, where she may go: what nobody waits for any more is told so. */
  readonly share: <Value>(key: string, read: (leave: AbortSignal) => Promise<Value>, leave?: AbortSignal) => Promise<Value>;
}

interface Flight {
  readonly value: Promise<unknown>;
  readonly stop: AbortController;
  readers: number;
}

interface Line {
  running: Flight;
  next: Flight | null;
}

export function createSharing(): Sharing {
  const lines = new Map<string, Line>();

  const begin = (key: string, read: (leave: AbortSignal) => Promise<unknown>): Flight => {
    const stop = new AbortController();
    const value = read(stop.signal);
    const flight = { value, stop, readers: 0 };
    const end = () => {
      const line = lines.get(key);
      if (line?.running !== flight) return;
      if (line.next) lines.set(key, { running: line.next, next: null });
      else lines.delete(key);
    };
    value.then(end, end);
    return flight;
  };

  const board = (key: string, read: (leave: AbortSignal) => Promise<unknown>): Flight => {
    const line = lines.get(key);
    if (!line) {
      const running = begin(key, read);
      lines.set(key, { running, next: null });
      return running;
    }
    const before = line.running.value;
    // All who waited for it have left.
    if (line.next?.stop.signal.aborted) line.next = null;
    line.next ??= begin(key, async (leave) => {
      await before.catch(() => undefined);
      if (leave.aborted) throw new AppError('too many', 'Nobody waits for this any more.');
      return read(leave);
    });
    return line.next;
  };

  return {
    share: async (key, read, leave) => {
      const flight = board(key, read);
      flight.readers += 1;
      let isWaiting = true;
      const go = () => {
        if (!isWaiting) return;
        isWaiting = false;
        flight.readers -= 1;
        if (flight.readers === 0) flight.stop.abort();
      };
      leave?.addEventListener('abort', go);
      try {
        return (await flight.value) as never;
      } finally {
        isWaiting = false;
        leave?.removeEventListener('abort', go);
      }
    },
  };
}
