import { parseStep } from '@kindred-baton/core/tests/parse-step';
import type { Step } from '@kindred-baton/core/tests/step';
import type { DemoContents } from '../contents.ts';
import { readBrindlemere } from '../contents.ts';
import type { DemoPerson, DemoTeam } from '../people-and-teams.ts';
import type { OutlineNode, OutlineTest } from '../read-outline.ts';
import type { ScenarioPlan } from '../scenario-plans.ts';
import type { BigSize } from './big-size.ts';

const DIVISIONS = ['Harbour', 'Fen', 'Moor'];
const DISTRICTS = ['Eastgate', 'Millbrook', 'Priory', 'Underhill'];
/** For whom the work is done: the fourth level of the map. The last district has no public bodies. */
const KINDS = ['households', 'businesses', 'farms', 'public bodies'];
const CHANNELS = ['by telephone', 'at the counter', 'on the web', 'by letter', 'with a tablet', 'overnight', 'from a file'];
const SECOND_HOUSE = 'East';
const FIRST_NAMES = 'Ada Bero Cleo Dag Elin Faro Gwen Hale Imre Jula Kato Lene Milo Nell Otto Pia Quin Rhea Sven Tove'.split(' ');
const LAST_NAMES = 'Ashby Borne Cawley Dunmore Esker Farrow Glint Hythe Ivers'.split(' ');
/** What every screen shows besides what its test is about. */
const COMMON_LOOKS = ['See "Saved by"', 'See "Saved on"', 'See "Number"', 'See "Status"'];

/** A copy of Brindlemere's library: where on the map it hangs, and the number of its tests and scenarios. */
interface LibraryCopy {
  readonly number: number;
  readonly division: number;
  readonly district: number;
  readonly kind: number;
  readonly channel: number;
}

/** Brindlemere as a big trust: each stream in three divisions, each process in four districts, each activity for four kinds of customers. */
export function createBigContents(size: BigSize): DemoContents {
  const base = readBrindlemere();
  const copies = listCopies();
  const looks = COMMON_LOOKS.map(readStep);
  const tests = copies.flatMap((copy) => base.tests.map((test) => copyTest(test, copy, looks))).slice(0, size.tests);
  const whole = copies.slice(0, Math.floor(tests.length / base.tests.length));
  const requirements = whole.flatMap((copy) =>
    base.requirements.map((plan) => ({
      ...{ ...plan, node: toNodeCode(plan.node, copy), title: `${plan.title}, ${describeCopy(copy)}` },
      tests: plan.tests.map((code) => toCopyCode(code, copy)),
    })),
  );
  const scenarios = whole.flatMap((copy) => base.scenarios.map((plan) => copyScenario(plan, copy)));
  return {
    levels: ['stream', 'process', 'activity', 'kind of customer'],
    teams: [...base.teams, ...base.teams.map(toSecondHouse)],
    people: [...base.people, ...createTesters(base.teams).slice(0, size.testers)],
    nodes: createNodes(base.nodes),
    tests,
    requirements: requirements.slice(0, size.requirements),
    scenarios: [...(whole[0] ? [createLongest(base, whole[0])] : []), ...scenarios].slice(0, size.scenarios),
  };
}

/** Channel by channel, so that the first copies are spread over the whole map. */
function listCopies(): LibraryCopy[] {
  const places = DIVISIONS.flatMap((_, division) =>
    DISTRICTS.flatMap((__, district) => listKinds(district).map((___, kind) => ({ division, district, kind }))),
  );
  return CHANNELS.flatMap((_, channel) => places.map((place) => ({ ...place, channel }))).map((copy, index) => ({
    ...copy,
    number: index + 1,
  }));
}

const listKinds = (district: number) => (district === DISTRICTS.length - 1 ? KINDS.slice(0, -1) : KINDS);

const describeCopy = ({ district, kind, channel }: LibraryCopy) =>
  `${CHANNELS[channel] ?? ''}, ${KINDS[kind] ?? ''} of ${DISTRICTS[district] ?? ''}`;

const toCopyCode = (code: string, { number }: LibraryCopy) => `${code}-${String(number).padStart(3, '0')}`;

/** NS → NS-H; NS-2 → NS-H-E2; NS-2.1 → NS-H-E2.1: division and district by their first letters. */
function toNodeCode(code: string, { division, district }: Pick<LibraryCopy, 'division' | 'district'>): string {
  const [stream = '', rest] = code.split('-');
  const own = `${stream}-${DIVISIONS[division]?.[0] ?? ''}`;
  return rest === undefined ? own : `${own}-${DISTRICTS[district]?.[0] ?? ''}${rest}`;
}

function createNodes(base: readonly OutlineNode[]): OutlineNode[] {
  const streams = base.filter(({ depth }) => depth === 0);
  return DIVISIONS.flatMap((name, division) =>
    streams.flatMap((stream) => {
      const below = base.filter(({ code, depth }) => depth > 0 && code.startsWith(`${stream.code}-`));
      return [
        toHouse({ ...stream, code: toNodeCode(stream.code, { division, district: 0 }), name: `${stream.name}, ${name}` }, division),
        ...DISTRICTS.flatMap((__, district) => below.flatMap((node) => copyNode(node, { division, district }))),
      ];
    }),
  );
}

function copyNode(node: OutlineNode, place: { readonly division: number; readonly district: number }): OutlineNode[] {
  const own = toHouse({ ...node, code: toNodeCode(node.code, place) }, place.division);
  if (node.depth === 1) return [{ ...own, name: `${node.name}, ${DISTRICTS[place.district] ?? ''}` }];
  const kinds = listKinds(place.district).map((kind, index) => ({
    ...{ ...own, depth: node.depth + 1, code: `${own.code}.${index + 1}`, name: `${node.name}, ${kind}` },
  }));
  return [own, ...kinds];
}

function copyTest(test: OutlineTest, copy: LibraryCopy, looks: readonly Step[]): OutlineTest {
  return toHouse(
    {
      ...{ ...test, code: toCopyCode(test.code, copy), name: `${test.name}, ${describeCopy(copy)}` },
      ...{
        node: `${toNodeCode(test.node, copy)}.${copy.kind + 1}`,
        steps: [...test.steps.slice(0, -1), ...looks, ...test.steps.slice(-1)],
      },
    },
    copy.division,
  );
}

function copyScenario(plan: ScenarioPlan, copy: LibraryCopy): ScenarioPlan {
  return {
    ...{ ...plan, code: toCopyCode(plan.code, copy), name: `${plan.name}, ${describeCopy(copy)}`, node: toNodeCode(plan.node, copy) },
    legs: plan.legs.replace(/[A-Z]{3}-\d\d/g, (code) => toCopyCode(code, copy)),
  };
}

const LONGEST = 60;

/** A scenario through most of the library: as long as any is. */
function createLongest(base: DemoContents, copy: LibraryCopy): ScenarioPlan {
  const codes = base.tests.slice(0, LONGEST).map(({ code }) => toCopyCode(code, copy));
  return {
    ...{ code: 'ALL-S1', name: 'From the application to the plant’s upkeep', node: toNodeCode('NS', copy), priority: 'high', rows: 2 },
    legs: codes.join(' '),
  };
}

/** The last division has teams of its own. */
function toHouse<T extends { readonly team: string }>(item: T, division: number): T {
  return division === DIVISIONS.length - 1 ? { ...item, team: `${item.team} ${SECOND_HOUSE}` } : item;
}

const toSecondHouse = (team: DemoTeam): DemoTeam => ({ ...team, name: `${team.name} ${SECOND_HOUSE}` });

function createTesters(teams: readonly DemoTeam[]): DemoPerson[] {
  const names = [...teams, ...teams.map(toSecondHouse)].map(({ name }) => name);
  return LAST_NAMES.flatMap((last) => FIRST_NAMES.map((first) => `${first} ${last}`)).map((name, index) => ({
    ...{ name, roles: ['tester'] as const, team: names[index % names.length]! },
  }));
}

function readStep(sentence: string): Step {
  const reading = parseStep(sentence);
  if (!reading.ok) throw new Error(`${sentence}: ${reading.message}`);
  return reading.step;
}
