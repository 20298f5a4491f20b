import { and, eq, inArray, notInArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { LegId, PersonaId, ScenarioId, ScenarioRowId, TeamId, TestId } from '@kindred-baton/core/ids';
import type { LegDocument, ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { chunk } from '../chunk.ts';
import type { Context } from '../operation.ts';
import { personas } from '../schema/personas.ts';
import { teams } from '../schema/programmes.ts';
import { legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { toExcluded } from '../to-excluded.ts';
import type { LoadedScenario } from './load-chains.ts';

export function toDocument({ scenario, rows, legs: own }: LoadedScenario): ScenarioDocument {
  return {
    legs: own.map((leg) => leg.document),
    columns: scenario.columns,
    rows: rows.map(({ id, name, values }) => ({ id, name, values })),
    classes: scenario.classes,
  };
}

/** Writes what differs between two documents of a scenario, whose row the caller has locked. Refuses what is not this programme's. */
export async function storeDocument(
  context: Context,
  id: ScenarioId,
  { before, after }: { readonly before: ScenarioDocument; readonly after: ScenarioDocument },
): Promise<void> {
  const { db } = context;
  if (before.columns !== after.columns || before.classes !== after.classes)
    await db
      .update(scenarios)
      .set({ columns: [...after.columns], classes: after.classes })
      .where(eq(scenarios.id, id));
  if (before.legs !== after.legs) await storeLegs(context, id, before.legs, after.legs);
  if (before.rows !== after.rows) await storeRows(context, id, before.rows, after.rows);
}

async function storeLegs(
  context: Context,
  scenarioId: ScenarioId,
  before: readonly LegDocument[],
  after: readonly LegDocument[],
): Promise<void> {
  const { db } = context;
  const placed = (list: readonly LegDocument[]) => new Map(list.map((leg, position) => [leg.id, JSON.stringify([position, leg])]));
  const [was, is] = [placed(before), placed(after)];
  const gone = before.filter(({ id }) => !is.has(id)).map(({ id }) => id as LegId);
  const changed = after.filter(({ id }) => was.get(id) !== is.get(id));
  if (gone.length > 0) await db.delete(legs).where(and(eq(legs.scenarioId, scenarioId), inArray(legs.id, gone)));
  if (changed.length === 0) return;
  const testIdOf = await findReferences(context, changed);
  const positionOf = new Map(after.map(({ id }, position) => [id, position]));
  const rows = changed.map((leg) => ({
    ...{
      id: leg.id as LegId,
      scenarioId,
      position: positionOf.get(leg.id) ?? 0,
      title: leg.title,
      version: leg.test === null ? null : leg.version,
    },
    testId: leg.test === null ? null : (testIdOf.get(leg.test) ?? null),
    ...{ teamId: leg.team as TeamId | null, personaId: leg.persona as PersonaId | null, after: leg.after as LegId[] | null },
    ...{ wires: [...leg.wires], waitDays: leg.waitDays, samePersonAs: leg.samePersonAs as LegId | null },
    ...{ otherPersonThan: [...leg.otherPersonThan] as LegId[], note: leg.note, needs: [...leg.needs], gives: [...leg.gives] },
  }));
  const columns = toExcluded([
    ...(['position', 'title', 'version', 'testId', 'teamId', 'personaId', 'after', 'wires', 'waitDays', 'samePersonAs'] as const),
    ...(['otherPersonThan', 'note', 'needs', 'gives'] as const),
  ]);
  for (const piece of chunk(rows)) {
    const written = await db
      .insert(legs)
      .values(piece)
      .onConflictDoUpdate({ target: legs.id, set: columns, setWhere: eq(legs.scenarioId, scenarioId) })
      .returning({ id: legs.id });
    if (written.length < piece.length) throw new AppError('conflict', 'A leg with this id belongs to another scenario. Add it again.');
  }
}

/** The ids of the tests that legs link to; teams and personas must be this programme's. */
async function findReferences({ db, actor }: Context, changed: readonly LegDocument[]): Promise<Map<string, TestId>> {
  const here = actor.programmeId;
  const list = <Value>(pick: (leg: LegDocument) => Value | null) =>
    [...new Set(changed.flatMap((leg) => pick(leg) ?? []))] as NonNullable<Value>[];
  const [codes, teamIds, personaIds] = [
    list(({ test }) => test),
    list(({ team }) => team as TeamId | null),
    list(({ persona }) => persona as PersonaId | null),
  ];
  const [testRows, teamRows, personaRows] = await Promise.all([
    codes.length === 0
      ? []
      : db
          .select({ id: tests.id, code: tests.code })
          .from(tests)
          .where(and(eq(tests.programmeId, here), inArray(tests.code, codes))),
    teamIds.length === 0
      ? []
      : db
          .select({ id: teams.id })
          .from(teams)
          .where(and(eq(teams.programmeId, here), inArray(teams.id, teamIds))),
    personaIds.length === 0
      ? []
      : db
          .select({ id: personas.id })
          .from(personas)
          .where(and(eq(personas.programmeId, here), inArray(personas.id, personaIds))),
  ]);
  const found = new Map(testRows.map(({ id, code }) => [code, id]));
  const lost = codes.find((code) => !found.has(code));
  if (lost !== undefined) throw new AppError('not found', `There is no test ${lost} in the library.`);
  if (teamRows.length < teamIds.length) throw new AppError('invalid', 'This programme has no such team.');
  if (personaRows.length < personaIds.length) throw new AppError('invalid', 'This programme has no such persona.');
  return found;
}

/** Rows keep their ids and stay in place, so that runs made of them still point to the row they ran. */
async function storeRows(
  { db }: Context,
  scenarioId: ScenarioId,
  before: ScenarioDocument['rows'],
  after: ScenarioDocument['rows'],
): Promise<void> {
  const kept = after.map(({ id }) => id as ScenarioRowId);
  await db
    .delete(scenarioRows)
    .where(and(eq(scenarioRows.scenarioId, scenarioId), kept.length > 0 ? notInArray(scenarioRows.id, kept) : undefined));
  const nameOf = new Map(before.map(({ id, name }) => [id, name]));
  // Names are unique in a scenario; set aside first, two rows can swap theirs.
  const renamed = after.filter(({ id, name }) => nameOf.has(id) && nameOf.get(id) !== name).map(({ id }) => id as ScenarioRowId);
  if (renamed.length > 0)
    await db
      .update(scenarioRows)
      .set({ name: sql`${scenarioRows.id}::text` })
      .where(inArray(scenarioRows.id, renamed));
  const rows = after.map((row, position) => ({
    id: row.id as ScenarioRowId,
    scenarioId,
    position,
    name: row.name,
    values: { ...row.values },
  }));
  for (const piece of chunk(rows)) {
    const written = await db
      .insert(scenarioRows)
      .values(piece)
      .onConflictDoUpdate({
        ...{ target: scenarioRows.id, set: toExcluded(['name', 'position', 'values']) },
        setWhere: eq(scenarioRows.scenarioId, scenarioId),
      })
      .returning({ id: scenarioRows.id });
    if (written.length < piece.length) throw new AppError('conflict', 'A data row with this id belongs to another scenario. Add it again.');
  }
}
