import { count, eq } from 'drizzle-orm';
import type { OverlapsView } from '@kindred-baton/contracts/scenarios/reuse';
import { findOverlaps } from '@kindred-baton/core/scenarios/find-overlaps';
import type { Query } from '../operation.ts';
import { scenarioRows, scenarios } from '../schema/scenarios.ts';
import { loadChains } from './load-chains.ts';

const MOST_SHOWN = 200;

/** Where scenarios repeat one another (core: find-overlaps.ts), with what it costs; retired scenarios are left out. */
export const getOverlaps: Query<void, OverlapsView> = {
  right: 'read',
  read: async (context) => {
    const [{ scenarios: all }, counts] = await Promise.all([
      loadChains(context),
      context.db
        .select({ code: scenarios.code, rows: count() })
        .from(scenarioRows)
        .innerJoin(scenarios, eq(scenarios.id, scenarioRows.scenarioId))
        .where(eq(scenarios.programmeId, context.actor.programmeId))
        .groupBy(scenarios.code),
    ]);
    const shown = all.filter(({ scenario }) => scenario.state !== 'retired');
    const byCode = new Map(shown.map((loaded) => [loaded.scenario.code, loaded]));
    const tests = new Map(shown.flatMap(({ legs }) => legs.flatMap(({ test }) => (test ? [[test.code, test] as const] : []))));
    const rowsOf = new Map(counts.map(({ code, rows }) => [code, rows]));
    const found = findOverlaps(
      shown.map(({ scenario, legs }) => ({ code: scenario.code, tests: legs.map(({ test, row }) => test?.code ?? `open ${row.id}`) })),
    );
    const toPlace = (code: string) => ({ code, name: byCode.get(code)?.scenario.name ?? code });
    const sum = (codes: readonly string[]) => codes.reduce((minutes, code) => minutes + (tests.get(code)?.minutes ?? 0), 0);
    const minutesOf = (code: string) => sum(byCode.get(code)?.legs.flatMap(({ test }) => test?.code ?? []) ?? []);
    const contained = found.contained
      .map(({ inner, outer, isEqual }) => {
        const runs = Math.max(1, rowsOf.get(inner) ?? 0);
        return { inner: toPlace(inner), outer: toPlace(outer), isEqual, runs, minutes: runs * minutesOf(inner) };
      })
      .sort((a, b) => b.minutes - a.minutes);
    return {
      contained: contained.slice(0, MOST_SHOWN),
      stretches: found.stretches.slice(0, MOST_SHOWN).map(({ tests: codes, places }) => ({
        tests: codes.map((code) => ({ code, name: tests.get(code)?.name ?? code })),
        places: places.map(({ scenario, at }) => ({ scenario: toPlace(scenario), at: at + 1 })),
        minutes: sum(codes),
      })),
      totals: { contained: contained.length, stretches: found.stretches.length },
    };
  },
};
