import { enterProgramme } from '../operation.ts';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { Id, NodeId, PersonId, ProgrammeId, TeamId, TestId } from '@kindred-baton/core/ids';
import type { RequirementKind } from '@kindred-baton/core/requirements/requirement';
import type { Database } from '../database.ts';
import { accounts, people } from '../schema/people.ts';
import { nodes } from '../schema/map.ts';
import { applications, environments, installations, members, programmes, teamMembers, teams } from '../schema/programmes.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { toDemoField } from './fields.ts';
import { DEMO_APPLICATIONS, DEMO_PEOPLE, DEMO_TEAMS, STREAM_OWNERS, toEmail } from './people-and-teams.ts';
import { layPersonas } from './lay-personas.ts';
import { PRACTICE_ADDRESS } from './point-demo.ts';
import type { OutlineTest } from './read-outline.ts';
import { readOutline } from './read-outline.ts';
import { REQUIREMENT_PLANS } from './requirement-plans.ts';
import { TEST_ROWS } from './test-rows.ts';
import { LEAK_TO_REPAIR } from './streams/leak-to-repair.ts';
import { MATERIALS_IN, PLANT_UPKEEP } from './streams/materials-and-plant.ts';
import { NEW_SUPPLY } from './streams/new-supply.ts';
import { READING_TO_BILL } from './streams/reading-to-bill.ts';

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
  readonly tests: readonly OutlineTest[];
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
export async function layProgramme(tools: DemoTools): Promise<LaidProgramme> {
  const { db, id, now } = tools;
  const programmeId = id<'programme'>();
  await db.insert(programmes).values({
    ...{ id: programmeId, key: 'brindlemere', name: 'Brindlemere Water Trust', timeZone: 'Europe/London', isDemo: true },
    ...{ levels: ['stream', 'process', 'activity'], defectPrefix: 'TQ', nextDefect: 201, createdAt: now },
  });
  await enterProgramme(db, { programmeId }, 'all programmes');
  const teamOf = await layTeams(tools, programmeId);
  const personOf = await layPeople(tools, programmeId, teamOf);
  const applicationOf = await layApplications(tools, programmeId);
  const environmentOf = await layEnvironments(tools, programmeId, applicationOf);
  await layPersonas(tools, programmeId, { applicationOf, environmentOf });
  const outline = readOutline(NEW_SUPPLY + LEAK_TO_REPAIR + READING_TO_BILL + MATERIALS_IN + PLANT_UPKEEP);
  const nodeOf = await layNodes(tools, programmeId, outline.nodes, { teamOf, personOf, applicationOf });
  const testOf = await layTests(tools, programmeId, outline.tests, { teamOf, personOf, applicationOf, nodeOf });
  await layRequirements(tools, programmeId, nodeOf, testOf);
  return {
    ...{ programmeId, personOf, teamOf, nodeOf, testOf, tests: outline.tests },
    rehearsalId: getFrom(environmentOf, 'Rehearsal'),
    integrationId: getFrom(environmentOf, 'Integration'),
  };
}

async function layTeams({ db, id }: DemoTools, programmeId: ProgrammeId): Promise<Map<string, TeamId>> {
  const rows = DEMO_TEAMS.map((team, position) => ({ id: id<'team'>(), programmeId, position, workingDays: [1, 2, 3, 4, 5], ...team }));
  await db.insert(teams).values(rows);
  return new Map(rows.map((row) => [row.name, row.id]));
}

async function layPeople({ db, id, now, passwordHash }: DemoTools, programmeId: ProgrammeId, teamOf: ReadonlyMap<string, TeamId>) {
  const rows = DEMO_PEOPLE.map((person, index) => ({ ...person, id: id<'person'>(), createdAt: new Date(now.getTime() + index) }));
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

async function layNodes(
  { db, id, now }: DemoTools,
  programmeId: ProgrammeId,
  outline: ReturnType<typeof readOutline>['nodes'],
  names: Names,
) {
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
      ownerId: getFrom(names.personOf, STREAM_OWNERS[node.code.slice(0, 2)] ?? ''),
    };
  });
  await db.insert(nodes).values(rows);
  return new Map(rows.map((row) => [row.code, row.id]));
}

/** Applications whose tests business users do themselves, since they want to see them. */
const BY_PEOPLE: ReadonlySet<string> = new Set(['Customer', 'Works']);

async function layTests(
  { db, id, now }: DemoTools,
  programmeId: ProgrammeId,
  outline: readonly OutlineTest[],
  names: Names & { nodeOf: ReadonlyMap<string, NodeId> },
) {
  const rows = outline.map((test) => ({
    ...{ id: id<'test'>(), programmeId, code: test.code, name: test.name, minutes: test.minutes, priority: test.priority, createdAt: now },
    nodeId: getFrom(names.nodeOf, test.node),
    teamId: getFrom(names.teamOf, test.team),
    applicationId: getFrom(names.applicationOf, test.application),
    runBy: test.steps.some((step) => step.do === 'hand') || BY_PEOPLE.has(test.application) ? ('hand' as const) : ('runner' as const),
  }));
  await db.insert(tests).values(rows);
  const author = getFrom(names.personOf, 'Edda Quill');
  const agreed = new Date(now.getTime() - 60 * 86_400_000);
  await db.insert(testVersions).values(
    outline.map((test, index) => {
      const { needs, gives } = deriveInterface(test.steps);
      return {
        ...{
          id: id<'testVersion'>(),
          testId: rows[index]?.id ?? id<'test'>(),
          number: 1,
          state: 'agreed' as const,
          steps: [...test.steps],
        },
        needs: needs.map(({ name }) => toDemoField(name)),
        gives: gives.map(({ name }) => toDemoField(name)),
        rows: [...(TEST_ROWS[test.code] ?? [])],
        ...{ savedBy: author, savedAt: agreed, agreedBy: author, agreedAt: agreed },
      };
    }),
  );
  return new Map(rows.map((row) => [row.code, row.id]));
}

async function layRequirements(
  { db, id }: DemoTools,
  programmeId: ProgrammeId,
  nodeOf: ReadonlyMap<string, NodeId>,
  testOf: ReadonlyMap<string, TestId>,
) {
  const plans = REQUIREMENT_PLANS.trim()
    .split('\n')
    .map((line) => line.split('|'));
  const rows = plans.map(([, kind = '', priority = '', title = ''], index) => ({
    ...{ id: id<'requirement'>(), programmeId, title, code: `RQ-${String(index + 1).padStart(3, '0')}` },
    kind: kind as RequirementKind,
    priority: priority as 'high' | 'medium' | 'low',
  }));
  await db.insert(requirements).values(rows);
  await db
    .insert(requirementNodes)
    .values(plans.map(([node = ''], index) => ({ requirementId: rows[index]?.id ?? id<'requirement'>(), nodeId: getFrom(nodeOf, node) })));
  await db.insert(requirementTests).values(
    plans.flatMap(([, , , , codes = ''], index) =>
      codes
        .split(' ')
        .filter((code) => code !== '')
        .map((code) => ({ requirementId: rows[index]?.id ?? id<'requirement'>(), testId: getFrom(testOf, code) })),
    ),
  );
}
