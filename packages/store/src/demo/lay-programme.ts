import { enterProgramme } from '../operation.ts';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { Id, NodeId, PersonId, ProgrammeId, TeamId, TestId } from '@kindred-baton/core/ids';
import type { Database } from '../database.ts';
import { accounts, people } from '../schema/people.ts';
import { nodes } from '../schema/map.ts';
import { applications, environments, installations, members, programmes, teamMembers, teams } from '../schema/programmes.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { chunk } from '../chunk.ts';
import type { DemoContents } from './contents.ts';
import { findOwner } from './contents.ts';
import { toDemoField } from './fields.ts';
import { DEMO_APPLICATIONS, toEmail } from './people-and-teams.ts';
import { layPersonas } from './lay-personas.ts';
import { PRACTICE_ADDRESS } from './point-demo.ts';
import { TEST_ROWS } from './test-rows.ts';

type Writer = Pick<Database, 'select' | 'selectDistinct' | 'selectDistinctOn' | 'execute' | 'insert' | 'update' | 'delete'>;

export interface DemoTools {
  readonly db: Writer;
  readonly id: <Kind extends string>() => Id<Kind>;
  readonly now: Date;
  readonly passwordHash: string;
}

export interface LaidProgramme {
  readonly programmeId: ProgrammeId;
  readonly personOf: ReadonlyMap<string, PersonId>;
  readonly teamOf: ReadonlyMap<string, TeamId>;
  readonly nodeOf: ReadonlyMap<string, NodeId>;
  readonly testOf: ReadonlyMap<string, TestId>;
  readonly contents: DemoContents;
  readonly rehearsalId: Id<'environment'>;
  readonly integrationId: Id<'environment'>;
}

const ENVIRONMENTS = ['Integration', 'Rehearsal'] as const;

const getFrom = <Key, Value>(map: ReadonlyMap<Key, Value>, key: Key): Value => {
  const value = map.get(key);
  if (value === undefined) throw new Error(`The demo has no ${String(key)}.`);
  return value;
};

/** Lays the programme itself: people, teams, applications, the map, tests and requirements. */
export async function layProgramme(tools: DemoTools, contents: DemoContents): Promise<LaidProgramme> {
  const { db, id, now } = tools;
  const programmeId = id<'programme'>();
  await db.insert(programmes).values({
    ...{ id: programmeId, key: 'brindlemere', name: 'Brindlemere Water Trust', timeZone: 'Europe/London', isDemo: true },
    ...{ levels: [...contents.levels], defectPrefix: 'TQ', nextDefect: 201, createdAt: now },
  });
  await enterProgramme(db, { programmeId }, 'all programmes');
  const teamOf = await layTeams(tools, programmeId, contents.teams);
  const personOf = await layPeople(tools, programmeId, contents.people, teamOf);
  const applicationOf = await layApplications(tools, programmeId);
  const environmentOf = await layEnvironments(tools, programmeId, applicationOf);
  await layPersonas(tools, programmeId, { applicationOf, environmentOf });
  const nodeOf = await layNodes(tools, programmeId, contents.nodes, { teamOf, personOf, applicationOf });
  const testOf = await layTests(tools, programmeId, contents.tests, { teamOf, personOf, applicationOf, nodeOf });
  await layRequirements(tools, programmeId, contents.requirements, { nodeOf, testOf });
  return {
    ...{ programmeId, personOf, teamOf, nodeOf, testOf, contents },
    rehearsalId: getFrom(environmentOf, 'Rehearsal'),
    integrationId: getFrom(environmentOf, 'Integration'),
  };
}

async function layTeams({ db, id }: DemoTools, programmeId: ProgrammeId, all: DemoContents['teams']): Promise<Map<string, TeamId>> {
  const rows = all.map((team, position) => ({ id: id<'team'>(), programmeId, position, workingDays: [1, 2, 3, 4, 5], ...team }));
  await db.insert(teams).values(rows);
  return new Map(rows.map((row) => [row.name, row.id]));
}

async function layPeople(
  { db, id, now, passwordHash }: DemoTools,
  programmeId: ProgrammeId,
  all: DemoContents['people'],
  teamOf: ReadonlyMap<string, TeamId>,
) {
  const rows = all.map((person, index) => ({ ...person, id: id<'person'>(), createdAt: new Date(now.getTime() + index) }));
  await db.insert(people).values(
    rows.map(({ id: personId, name, createdAt }) => ({
      id: personId,
      name,
      email: toEmail(name),
      emailVerified: true,
      createdAt,
      updatedAt: now,
    })),
  );
  await db.insert(accounts).values(
    rows.map((row) => ({
      id: id(),
      accountId: row.id,
      providerId: 'credential',
      userId: row.id,
      password: passwordHash,
      createdAt: now,
      updatedAt: now,
    })),
  );
  await db.insert(members).values(rows.map((row) => ({ programmeId, personId: row.id, roles: [...row.roles] })));
  await db.insert(teamMembers).values(rows.flatMap((row) => (row.team ? [{ personId: row.id, teamId: getFrom(teamOf, row.team) }] : [])));
  return new Map(rows.map((row) => [row.name, row.id]));
}

async function layApplications({ db, id }: DemoTools, programmeId: ProgrammeId) {
  const rows = DEMO_APPLICATIONS.map((name) => ({ id: id<'application'>(), programmeId, name: `Millrace ${name}` }));
  await db.insert(applications).values(rows);
  return new Map(rows.map((row, index) => [DEMO_APPLICATIONS[index] as string, row.id]));
}

async function layEnvironments({ db, id }: DemoTools, programmeId: ProgrammeId, applicationOf: ReadonlyMap<string, Id<'application'>>) {
  const rows = ENVIRONMENTS.map((name) => ({ id: id<'environment'>(), programmeId, name }));
  await db.insert(environments).values(rows);
  await db.insert(installations).values(
    rows.flatMap((environment) =>
      [...applicationOf].map(([name, applicationId]) => ({
        ...{ environmentId: environment.id, applicationId },
        address: `${PRACTICE_ADDRESS}/${environment.name.toLowerCase()}/${name.toLowerCase()}`,
      })),
    ),
  );
  return new Map(rows.map((row) => [row.name as string, row.id]));
}

interface Names {
  readonly teamOf: ReadonlyMap<string, TeamId>;
  readonly personOf: ReadonlyMap<string, PersonId>;
  readonly applicationOf: ReadonlyMap<string, Id<'application'>>;
}

async function layNodes({ db, id, now }: DemoTools, programmeId: ProgrammeId, outline: DemoContents['nodes'], names: Names) {
  const above: NodeId[] = [];
  const rows = outline.map((node, position) => {
    const nodeId = id<'node'>();
    above.length = node.depth;
    const parentId = above.at(-1) ?? null;
    above.push(nodeId);
    return {
      ...{ id: nodeId, programmeId, parentId, position, createdAt: now, code: node.code, name: node.name, isCritical: node.isCritical },
      teamId: getFrom(names.teamOf, node.team),
      applicationId: node.depth === 0 ? null : getFrom(names.applicationOf, node.application),
      ownerId: getFrom(names.personOf, findOwner(node.code)),
    };
  });
  for (const piece of chunk(rows)) await db.insert(nodes).values(piece);
  return new Map(rows.map((row) => [row.code, row.id]));
}

/** Applications whose tests business users do themselves, since they want to see them. */
const BY_PEOPLE: ReadonlySet<string> = new Set(['Customer', 'Works']);

async function layTests(
  { db, id, now }: DemoTools,
  programmeId: ProgrammeId,
  outline: DemoContents['tests'],
  names: Names & { nodeOf: ReadonlyMap<string, NodeId> },
) {
  const rows = outline.map((test) => ({
    ...{ id: id<'test'>(), programmeId, code: test.code, name: test.name, minutes: test.minutes, priority: test.priority, createdAt: now },
    nodeId: getFrom(names.nodeOf, test.node),
    teamId: getFrom(names.teamOf, test.team),
    applicationId: getFrom(names.applicationOf, test.application),
    runBy: test.steps.some((step) => step.do === 'hand') || BY_PEOPLE.has(test.application) ? ('hand' as const) : ('runner' as const),
  }));
  for (const piece of chunk(rows)) await db.insert(tests).values(piece);
  const author = getFrom(names.personOf, 'Edda Quill');
  const agreed = new Date(now.getTime() - 60 * 86_400_000);
  const versions = outline.map((test, index) => {
    const { needs, gives } = deriveInterface(test.steps);
    return {
      ...{ id: id<'testVersion'>(), testId: rows[index]?.id ?? id<'test'>(), number: 1, state: 'agreed' as const, steps: [...test.steps] },
      needs: needs.map(({ name }) => toDemoField(name)),
      gives: gives.map(({ name }) => toDemoField(name)),
      rows: [...(TEST_ROWS[test.code] ?? [])],
      ...{ savedBy: author, savedAt: agreed, agreedBy: author, agreedAt: agreed },
    };
  });
  for (const piece of chunk(versions)) await db.insert(testVersions).values(piece);
  return new Map(rows.map((row) => [row.code, row.id]));
}

async function layRequirements(
  { db, id }: DemoTools,
  programmeId: ProgrammeId,
  plans: DemoContents['requirements'],
  { nodeOf, testOf }: Pick<LaidProgramme, 'nodeOf' | 'testOf'>,
) {
  const rows = plans.map(({ kind, priority, title }, index) => ({
    ...{ id: id<'requirement'>(), programmeId, kind, priority, title, code: `RQ-${String(index + 1).padStart(3, '0')}` },
  }));
  for (const piece of chunk(rows)) await db.insert(requirements).values(piece);
  const requirementAt = (index: number) => rows[index]?.id ?? id<'requirement'>();
  const places = plans.map(({ node }, index) => ({ requirementId: requirementAt(index), nodeId: getFrom(nodeOf, node) }));
  for (const piece of chunk(places)) await db.insert(requirementNodes).values(piece);
  const served = plans.flatMap(({ tests: codes }, index) =>
    codes.map((code) => ({ requirementId: requirementAt(index), testId: getFrom(testOf, code) })),
  );
  for (const piece of chunk(served)) await db.insert(requirementTests).values(piece);
}
