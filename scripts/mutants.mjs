/**
 * npm run mutants: whether the tests notice when core or formats compute something else. A seeded sample of small changes (a bound, a sign, a
 * condition, a sort taken away …) is made one at a time in a copy, and the unit tests that reach the changed file are run. Prints each change that
 * nothing noticed, with its place, and the share that was noticed. Options: --count 120 --seed 1 --only packages/core/src/turns
 */
import { cpus } from 'node:os';
import { cpSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import ts from 'typescript';
import { DATA, ROOT } from './setup/paths.mjs';
import { spawn } from 'node:child_process';

const { values: options } = parseArgs({
  options: { count: { type: 'string', default: '120' }, seed: { type: 'string', default: '1' }, only: { type: 'string', default: '' } },
});
const PACKAGES = ['core', 'contracts', 'formats'];
const MUTATED = ['packages/core/src', 'packages/formats/src'];
const LIMIT_MS = 90_000;

/** Known survivors that change nothing anybody could see, with the reason; each holds for its own line of text alone. */
const EXCUSED = JSON.parse(readFileSync(path.join(ROOT, 'scripts/mutants-excused.json'), 'utf8'));

const BOUNDS = { '<': '<=', '<=': '<', '>': '>=', '>=': '>' };
const SWAPS = { '+': '-', '-': '+', '*': '/', '&&': '||', '||': '&&', '===': '!==', '!==': '===', '??': '&&' };

/** Every place in a file at which something can be changed: what stands there, and what is put in its place. */
function findPlaces(file) {
  const text = readFileSync(path.join(ROOT, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const places = [];
  const add = (kind, node, to, from = node) =>
    places.push({
      file,
      kind,
      start: from.getStart(source),
      end: from.getEnd(),
      to,
      line: source.getLineAndCharacterOfPosition(from.getStart(source)).line + 1,
    });
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const sign = node.operatorToken.getText(source);
      const isText = [node.left, node.right].some((side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side));
      if (sign in BOUNDS) add('bound', node, BOUNDS[sign], node.operatorToken);
      else if (sign in SWAPS && !(sign === '+' && isText))
        add(sign === '+' || sign === '-' || sign === '*' ? 'sign' : 'condition', node, SWAPS[sign], node.operatorToken);
    }
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const { name, expression } = node.expression;
      if (name.text === 'sort' || name.text === 'reverse') add('sort', node, expression.getText(source));
      if (name.text === 'filter' && node.arguments.length === 1) add('filter', node, expression.getText(source));
      if (expression.getText(source) === 'Math' && (name.text === 'max' || name.text === 'min'))
        add('bound', node, name.text === 'max' ? 'min' : 'max', name);
      if (name.text === 'some' || name.text === 'every') add('condition', node, name.text === 'some' ? 'every' : 'some', name);
    }
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add('condition', node, node.operand.getText(source));
    if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent) && /^\d+$/.test(node.text))
      add('number', node, String(Number(node.text) + 1));
    if (node.kind === ts.SyntaxKind.TrueKeyword) add('condition', node, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword) add('condition', node, 'true');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return places;
}

function listSources(folder) {
  return readdirSync(path.join(ROOT, folder)).flatMap((name) => {
    const file = `${folder}/${name}`;
    if (statSync(path.join(ROOT, file)).isDirectory()) return listSources(file);
    return /\.ts$/.test(name) && !/\.test(-data)?\.ts$/.test(name) && file.startsWith(options.only) ? [file] : [];
  });
}

/** mulberry32: the same seed, the same sample. */
function createRandom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let value = Math.imul(state ^ (state >>> 15), state | 1);
    value ^= value + Math.imul(value ^ (value >>> 7), value | 61);
    return ((value ^ (value >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A copy of the packages in which changes are made; its tests find one another there. */
function makeCopy(at) {
  const copy = path.join(DATA, 'mutants', String(at));
  rmSync(copy, { recursive: true, force: true });
  mkdirSync(path.join(copy, 'packages'), { recursive: true });
  for (const name of PACKAGES)
    cpSync(path.join(ROOT, 'packages', name), path.join(copy, 'packages', name), {
      recursive: true,
      filter: (from) => !from.includes('node_modules'),
    });
  cpSync(path.join(ROOT, 'tests'), path.join(copy, 'tests'), { recursive: true });
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(copy, 'node_modules'));
  for (const name of PACKAGES) {
    const own = path.join(ROOT, 'packages', name, 'node_modules');
    if (existsSync(own)) symlinkSync(own, path.join(copy, 'packages', name, 'node_modules'));
  }
  writeFileSync(
    path.join(copy, 'vitest.config.mjs'),
    `export default { resolve: { alias: [{ find: /^@kindred-baton\\/(\\w+)\\/(.*)$/, replacement: ${JSON.stringify(copy)} + '/packages/$1/src/$2.ts' }] },
      test: { include: ['packages/{core,contracts,formats}/src/**/*.test.ts'], testTimeout: 20000, bail: 1, maxWorkers: 1, minWorkers: 1 } };`,
  );
  return copy;
}

/** Whether the tests that reach the file fail in the copy as it stands. */
function runTests(copy, file) {
  return new Promise((resolve) => {
    const vitest = path.join(ROOT, 'node_modules/vitest/vitest.mjs');
    const child = spawn(process.execPath, [vitest, 'related', file, '--run', '--root', copy, '--reporter', 'dot'], {
      cwd: copy,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, KINDRED_BATON_READXL: process.env.KINDRED_BATON_READXL ?? '' },
    });
    let output = '';
    child.stdout.on('data', (piece) => (output += piece));
    const timer = setTimeout(() => child.kill('SIGKILL'), LIMIT_MS);
    child.on('close', (code) => {
      clearTimeout(timer);
      resolve(/No test files found/.test(output) ? 'not reached' : code === 0 ? 'survived' : 'noticed');
    });
  });
}

const all = MUTATED.flatMap(listSources).flatMap(findPlaces);
const random = createRandom(Number(options.seed));
const wanted = Math.min(Number(options.count), all.length);
const sample = [];
while (sample.length < wanted) sample.push(...all.splice(Math.floor(random() * all.length), 1));

const results = [];
const waiting = [...sample];
await Promise.all(
  Array.from({ length: Math.max(1, Math.min(4, cpus().length)) }, async (_, at) => {
    const copy = makeCopy(at);
    for (let place = waiting.shift(); place; place = waiting.shift()) {
      const target = path.join(copy, place.file);
      const text = readFileSync(target, 'utf8');
      writeFileSync(target, text.slice(0, place.start) + place.to + text.slice(place.end));
      const fate = await runTests(copy, place.file);
      writeFileSync(target, text);
      const was = text.slice(place.start, place.end).replaceAll(/\s+/g, ' ').slice(0, 60);
      const to = place.to.replaceAll(/\s+/g, ' ').slice(0, 60);
      const within = (text.split('\n')[place.line - 1] ?? '').trim();
      const excuse = EXCUSED.find((known) => known.file === place.file && known.within === within && known.was === was && known.to === to);
      results.push({ ...place, fate, was, excuse: excuse?.why });
      if (fate !== 'noticed') console.log(`${fate}: ${place.file}:${place.line}  ${was}  →  ${to}${excuse ? `  (${excuse.why})` : ''}`);
    }
  }),
);
rmSync(path.join(DATA, 'mutants'), { recursive: true, force: true });

const count = (list, fate) => list.filter((result) => result.fate === fate).length;
const counted = results.filter(({ fate, excuse }) => fate === 'noticed' || excuse === undefined);
console.log(`\n${'kind'.padEnd(10)} noticed  of`);
for (const kind of [...new Set(results.map((result) => result.kind))].sort()) {
  const own = counted.filter((result) => result.kind === kind);
  console.log(`${kind.padEnd(10)} ${String(count(own, 'noticed')).padStart(7)} ${String(own.length).padStart(3)}`);
}
const share = count(counted, 'noticed') / Math.max(1, counted.length);
console.log(
  `\n${count(counted, 'noticed')} of ${counted.length} noticed (${(100 * share).toFixed(0)} %), ${count(counted, 'not reached')} reached by no test, ${results.length - counted.length} excused; seed ${options.seed}.`,
);
process.exitCode = share >= 0.8 ? 0 : 1;
