/** Remembers answers for a few seconds, so that a busy hour does not ask the same for each request. At most so many are kept. */
export interface Memory<Value> {
  readonly get: (key: string) => Value | undefined;
  readonly set: (key: string, value: Value) => void;
  readonly forget: (key: string) => void;
  readonly forgetAll: () => void;
}

export function createMemory<Value>(lastsMs: number, mostKept: number, now: () => number = () => performance.now()): Memory<Value> {
  const kept = new Map<string, { readonly value: Value; readonly until: number }>();
  return {
    get: (key) => {
      const found = kept.get(key);
      if (found && found.until > now()) return found.value;
      kept.delete(key);
      return undefined;
    },
    set: (key, value) => {
      // The oldest goes first: a map keeps the order in which keys came.
      if (kept.size >= mostKept) kept.delete(kept.keys().next().value ?? '');
      kept.set(key, { value, until: now() + lastsMs });
    },
    forget: (key) => void kept.delete(key),
    forgetAll: () => kept.clear(),
  };
}
