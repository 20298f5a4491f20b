import { toNameKey } from '@kindred-baton/core/values/field';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { LegId } from '@kindred-baton/core/ids';
import { legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import { toDemoField } from './fields.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';
import { createRowValues, nameRow } from './row-values.ts';
import { chunk } from '../chunk.ts';
import type { OutlineTest } from './read-outline.ts';
import type { ScenarioPlan } from './scenario-plans.ts';

/** Lays scenarios with their legs; the columns of their data rows are the needs that no leg gives. */
export async function layScenarios(tools: DemoTools, laid: LaidProgramme): Promise<void> {
  const { db, id, now } = tools;
  let index = 0;
  const testOf = new Map(laid.contents.tests.map((test) => [test.code, test]));
  const made = laid.contents.scenarios.map((plan) => {
    const chain = readLegs(plan, { ...laid, outlineOf: testOf }, id);
    const columns = findColumns(chain);
    const rows = Array.from({ length: plan.rows }, (_, position) => {
      const values = createRowValues({ index: index++, names: columns, delivers: plan.delivers });
      return { id: id<'scenarioRow'>(), position, values, name: nameRow(values, position) };
    });
    return { plan, chain, columns, rows, scenarioId: id<'scenario'>() };
  });
  const rows = made.map(({ plan, columns, scenarioId }) => ({
    ...{ id: scenarioId, programmeId: laid.programmeId, code: plan.code, name: plan.name, priority: plan.priority, createdAt: now },
    nodeId: laid.nodeOf.get(plan.node) ?? id<'node'>(),
    state: plan.state ?? ('agreed' as const),
    columns: columns.map(toDemoField),
  }));
  for (const piece of chunk(rows)) await db.insert(scenarios).values(piece);
  for (const piece of chunk(made.flatMap(({ chain, scenarioId }) => chain.map(({ row }) => ({ ...row, scenarioId })))))
    await db.insert(legs).values(piece);
  for (const piece of chunk(made.flatMap(({ rows: own, scenarioId }) => own.map((row) => ({ ...row, scenarioId })))))
    await db.insert(scenarioRows).values(piece);
}

function readLegs(plan: ScenarioPlan, laid: LaidProgramme & { readonly outlineOf: ReadonlyMap<string, OutlineTest> }, id: DemoTools['id']) {
  const idOf = new Map<string, LegId>();
  return plan.legs.split(' ').map((word, position) => {
    const [code = '', after] = word.split('<');
    const legId = id<'leg'>();
    idOf.set(code, legId);
    const [team, title] = code.startsWith('?') ? code.slice(1).replace(/_/g, ' ').split(':') : [];
    const test = laid.outlineOf.get(code);
    const row = {
      ...{ id: legId, position, title: title ?? null },
      testId: laid.testOf.get(code) ?? null,
      teamId: team ? (laid.teamOf.get(team) ?? null) : null,
      after: after ? after.split('+').flatMap((name) => idOf.get(name) ?? []) : null,
    };
    return { row, steps: test?.steps ?? [] };
  });
}

/** Needs that no leg before gives, in order of first use. */
function findColumns(chain: ReturnType<typeof readLegs>): string[] {
  const views = chain.map(({ row, steps }) => {
    const { needs, gives } = deriveInterface(steps);
    return {
      ...{ id: row.id, title: '', isOpen: row.testId === null, after: row.after ?? undefined },
      needs: needs.map(({ name }) => toDemoField(name)),
      gives: gives.map(({ name }) => toDemoField(name)),
    };
  });
  const found = new Map<string, string>();
  for (const { needs } of wireChain(views).legs) {
    for (const { need, source } of needs) if (source.kind === 'none' && need.type !== 'code') found.set(toNameKey(need.name), need.name);
  }
  return [...found.values()];
}
