import { asc, eq } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { applications, members, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import type { FacetNames } from '../turns/facets.ts';

/** The names that facets show, each in the order in which it is shown. Five queries. */
export async function loadFacetNames({ db, actor }: ReadContext): Promise<Omit<FacetNames, 'tree'>> {
  const here = actor.programmeId;
  const [teamRows, peopleRows, applicationRows, scenarioRows, testRows] = await Promise.all([
    db
      .select({ id: teams.id, name: teams.name })
      .from(teams)
      .where(eq(teams.programmeId, here))
      .orderBy(asc(teams.position), asc(teams.name)),
    db
      .select({ id: people.id, name: people.name })
      .from(members)
      .innerJoin(people, eq(people.id, members.personId))
      .where(eq(members.programmeId, here))
      .orderBy(asc(people.name)),
    db
      .select({ id: applications.id, name: applications.name })
      .from(applications)
      .where(eq(applications.programmeId, here))
      .orderBy(asc(applications.name)),
    db.select({ id: scenarios.id, code: scenarios.code, name: scenarios.name }).from(scenarios).where(eq(scenarios.programmeId, here)),
    db.select({ id: tests.id, applicationId: tests.applicationId }).from(tests).where(eq(tests.programmeId, here)),
  ]);
  const toNames = (rows: readonly { id: string; name: string }[]) => new Map(rows.map((row) => [row.id, row.name]));
  return {
    teams: toNames(teamRows),
    people: toNames(peopleRows),
    applications: toNames(applicationRows),
    scenarios: new Map(scenarioRows.map(({ id, code, name }) => [id, { code, name }])),
    applicationOfTest: new Map(testRows.map((row) => [row.id, row.applicationId])),
  };
}
