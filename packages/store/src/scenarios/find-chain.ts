import type { FindChain, FoundChainView } from '@kindred-baton/contracts/scenarios/reuse';
import { createChainLibrary } from '@kindred-baton/core/scenarios/chain-library';
import type { FoundChain } from '@kindred-baton/core/scenarios/find-chain';
import { findChain } from '@kindred-baton/core/scenarios/find-chain';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Query } from '../operation.ts';
import type { LibraryTest } from './load-library.ts';
import { loadLibrary } from './load-library.ts';

/** The cheapest chain of tests to a goal, over the whole library (core: find-chain.ts), and what can be a goal. One query. */
export const findChainInLibrary: Query<FindChain, FoundChainView> = {
  right: 'read',
  read: async (context, { test, value, have }) => {
    const library = await loadLibrary(context);
    const goal =
      test !== undefined ? ({ kind: 'test', code: test } as const) : value !== undefined ? ({ kind: 'value', name: value } as const) : null;
    const chain =
      goal &&
      findChain(
        createChainLibrary(library),
        goal,
        (have ?? '').split('|').filter((name) => name.trim() !== ''),
      );
    return { chain: chain ? toView(chain) : null, values: listValues(library), tests: library.map(({ code, name }) => ({ code, name })) };
  },
};

function toView({ legs, minutes, missing, isCheapest, otherStreams }: FoundChain): NonNullable<FoundChainView['chain']> {
  return {
    legs: legs.map(({ test, gives }) => ({
      test: { code: test.code, name: test.name, minutes: test.minutes, team: (test as LibraryTest).team, stream: test.stream ?? null },
      gives: [...gives],
    })),
    ...{ minutes, isCheapest, otherStreams: [...otherStreams] },
    missing: missing.map(({ need, neededBy, ...rest }) => ({
      ...rest,
      need: { ...need, choices: need.choices ? [...need.choices] : undefined },
      neededBy: [...neededBy],
    })),
  };
}

function listValues(library: readonly LibraryTest[]): string[] {
  const names = new Map(library.flatMap(({ gives }) => gives.map(({ name }) => [toNameKey(name), name] as const)));
  return [...names.values()].sort((a, b) => a.localeCompare(b));
}
