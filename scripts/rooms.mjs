/**
 * npm run rooms: draws the packages, their rooms and the arrows between them as they are today into docs/rooms.md. With --check it only says whether
 * that page is true, and that every address in ARCHITECTURE.md and CONTRIBUTING.md leads somewhere; npm test does that.
 */
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './setup/paths.mjs';
import { SetupError, runMain, say } from './setup/say.mjs';

const PAGE = path.join(ROOT, 'docs/rooms.md');
const HOUSES = [
  ['packages/core', 'src'],
  ['packages/contracts', 'src'],
  ['packages/formats', 'src'],
  ['packages/doors', 'src'],
  ['packages/store', 'src'],
  ['apps/web', 'src'],
  ['apps/runner', 'src'],
  ['apps/millrace', 'src'],
];
const MOST_IN_A_FOLDER = 25;

function listFiles(folder) {
  return readdirSync(folder).flatMap((name) => {
    const file = path.join(folder, name);
    if (statSync(file).isDirectory()) return ['node_modules', 'dist', '.astro', 'migrations'].includes(name) ? [] : listFiles(file);
    return /\.(tsx?|astro)$/.test(name) && !/\.test(-data)?\.tsx?$/.test(name) ? [file] : [];
  });
}

/** Of web the room is features/<noun>, else the first folder; a file at the top is a room called by a point. */
function toRoom(house, file) {
  const parts = path.relative(path.join(ROOT, house, 'src'), file).split(path.sep);
  if (parts.length === 1) return '·';
  return house === 'apps/web' && parts[0] === 'features' ? `features/${parts[1]}` : parts[0];
}

function resolveImport(file, spec) {
  const own = /^@kindred-baton\/(\w+)\/(.+)$/.exec(spec);
  if (own) return path.join(ROOT, 'packages', own[1], 'src', `${own[2]}.ts`);
  return spec.startsWith('.') ? path.resolve(path.dirname(file), spec) : undefined;
}

const houseOf = (file) => HOUSES.map(([house]) => house).find((house) => file.startsWith(path.join(ROOT, house) + path.sep));

function measure() {
  const rooms = new Map(HOUSES.map(([house]) => [house, new Map()]));
  const inner = new Map(HOUSES.map(([house]) => [house, new Map()]));
  const outer = new Map();
  const folders = new Map();
  for (const [house, source] of HOUSES) {
    for (const file of listFiles(path.join(ROOT, house, source))) {
      const room = toRoom(house, file);
      rooms.get(house).set(room, (rooms.get(house).get(room) ?? 0) + 1);
      const folder = path.relative(ROOT, path.dirname(file));
      folders.set(folder, (folders.get(folder) ?? 0) + 1);
      for (const [, spec] of readFileSync(file, 'utf8').matchAll(/(?:from|import\()\s*'([^']+)'/g)) {
        const target = resolveImport(file, spec);
        const other = target && houseOf(target);
        if (!other) continue;
        if (other !== house) outer.set(`${house} → ${other}`, (outer.get(`${house} → ${other}`) ?? 0) + 1);
        else {
          const to = toRoom(house, target);
          if (to !== room) inner.get(house).set(`${room} → ${to}`, (inner.get(house).get(`${room} → ${to}`) ?? 0) + 1);
        }
      }
    }
  }
  return { rooms, inner, outer, folders };
}

const toName = (text) => text.replaceAll(/[^A-Za-z0-9]/g, '_').replace(/^_$/, 'top');

function draw(nodes, arrows) {
  const lines = nodes.map(([name, label]) => `  ${toName(name)}["${label}"]`);
  const edges = [...arrows]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([arrow, count]) => {
      const [from, to] = arrow.split(' → ');
      return `  ${toName(from)} -->|${count}| ${toName(to)}`;
    });
  return ['```mermaid', 'flowchart RL', ...lines, ...edges, '```'].join('\n');
}

function print({ rooms, inner, outer, folders }) {
  const full = [...folders].filter(([, count]) => count > MOST_IN_A_FOLDER).map(([folder, count]) => `${folder} (${count})`);
  const sum = (map) => [...map.values()].reduce((total, count) => total + count, 0);
  const parts = HOUSES.map(([house]) => {
    const own = [...rooms.get(house)].sort(([a], [b]) => (a < b ? -1 : 1));
    return `## ${house}\n\n${draw(
      own.map(([room, count]) => [room, `${room} · ${count}`]),
      inner.get(house),
    )}`;
  });
  return `# Rooms and arrows

As they are today, written by \`npm run rooms\` and held by \`npm test\`. A box is a room with its files, an arrow the imports from one to another;
\`·\` are files at the top. Within core, contracts and store arrows go one way, in the order of ARCHITECTURE.md.

## The house

${draw(
  HOUSES.map(([house]) => [house, `${house} · ${sum(rooms.get(house))}`]),
  outer,
)}

Folders over ${MOST_IN_A_FOLDER} files: ${full.length === 0 ? 'none' : full.sort().join(', ')}.

${parts.join('\n\n')}
`;
}

const APPS = new Set(['web', 'runner', 'millrace', 'postbox']);

/** Where an address in the docs stands: `core/x` is packages/core/src/x, `web/x` apps/web/src/x, and a name alone is somewhere. */
const toPlaces = (address) => {
  const [house = '', ...rest] = address.split('/');
  return [address, `${APPS.has(house) ? 'apps' : 'packages'}/${house}/src/${rest.join('/')}`];
};

const PASSED_OVER = new Set(['node_modules', 'dist', '.astro']);

function listEvery(folder) {
  return readdirSync(path.join(ROOT, folder), { withFileTypes: true }).flatMap((entry) => {
    const place = `${folder}/${entry.name}`;
    if (!entry.isDirectory()) return [place];
    return PASSED_OVER.has(entry.name) ? [] : listEvery(place);
  });
}

/** Addresses in the docs at which nothing is. */
function findLostAddresses() {
  const files = readdirSync(ROOT, { withFileTypes: true }).flatMap(({ name }) =>
    ['apps', 'packages', 'scripts', 'tests', 'docs'].includes(name) ? listEvery(name) : [name],
  );
  const isThere = (address) =>
    toPlaces(address).some((place) =>
      files.some((file) => `/${file}`.endsWith(`/${place}`) || `/${file}`.includes(`/${place.replace(/\/?$/, '/')}`)),
    );
  return ['ARCHITECTURE.md', 'CONTRIBUTING.md'].flatMap((doc) =>
    [...readFileSync(path.join(ROOT, doc), 'utf8').matchAll(/`([\w./[\]-]+\.(?:tsx?|mjs|css|astro)|[\w./-]+\/)`/g)]
      .map(([, address]) => address)
      .filter((address) => !isThere(address))
      .map((address) => `${doc}: ${address}`),
  );
}

await runMain(async () => {
  const page = print(measure());
  if (!process.argv.includes('--check')) {
    writeFileSync(PAGE, page);
    return say('docs/rooms.md is written.');
  }
  if (readFileSync(PAGE, 'utf8') !== page) throw new SetupError('docs/rooms.md is not how the house is: npm run rooms writes it anew.');
  const lost = findLostAddresses();
  if (lost.length > 0) throw new SetupError(`There is nothing at these addresses of the docs: ${lost.join(', ')}.`);
});
