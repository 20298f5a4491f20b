import { createStore } from '@kindred-baton/store/database';
import { getActor } from '@kindred-baton/store/actor';
import { ask } from '@kindred-baton/store/operation';
import { people } from '@kindred-baton/store/schema/people';
import { eq } from 'drizzle-orm';
const store = createStore({ url: process.env.BIG_URL! });
const log: [number, number, string][] = [];
store.pool.on('connect', (c: any) => { const q = c.query.bind(c); c.query = (...a: any[]) => { const s = performance.now(); const r = q(...a); if (r?.then) r.then((x: any) => log.push([performance.now() - s, x?.rows?.length ?? 0, String(a[0]?.text ?? a[0]).slice(0, 230)])); return r; }; });
const [lea] = await store.db.select({ id: people.id }).from(people).where(eq(people.name, 'Lea Marsh'));
const actor = await getActor(store, lea!.id, 'brindlemere');
const E: Record<string, () => Promise<any>> = {
  progress: async () => { const { getProgress } = await import('@kindred-baton/store/progress/get-progress'); const { progressQuerySchema } = await import('@kindred-baton/contracts/progress/progress'); return ask(store, actor, getProgress, progressQuerySchema.parse({})); },
  strip: async () => { const { getStrip } = await import('@kindred-baton/store/map/get-strip'); return ask(store, actor, getStrip, {}); },
  map: async () => { const { getMap } = await import('@kindred-baton/store/map/get-map'); return ask(store, actor, getMap, undefined); },
  node: async () => { const { getNode } = await import('@kindred-baton/store/map/get-node'); return ask(store, actor, getNode, 'S01-2.1' as any); },
  defects: async () => { const m: any = await import('@kindred-baton/store/defects/get-defects'); return ask(store, actor, m.listDefects, process.env.INPUT ? JSON.parse(process.env.INPUT) : undefined); },
  requirements: async () => { const m: any = await import('@kindred-baton/store/requirements/list-requirements'); return ask(store, actor, m.getTraceability, process.env.INPUT ? JSON.parse(process.env.INPUT) : undefined); },
  tests: async () => { const m: any = await import('@kindred-baton/store/tests/list-tests'); const { testFilterSchema } = await import('@kindred-baton/contracts/tests/library'); return ask(store, actor, m.listTests, testFilterSchema.parse({})); },
  cycle: async () => { const m: any = await import('@kindred-baton/store/cycles/get-cycle'); return ask(store, actor, m.getCycle, 'ACC-2'); },
  cycles: async () => { const m: any = await import('@kindred-baton/store/cycles/list-cycles'); return ask(store, actor, m.listCycles, undefined); },
  scope: async () => { const m: any = await import('@kindred-baton/store/cycles/get-cycle-scope'); return ask(store, actor, m.getCycleScope, undefined); },
  plan: async () => { const m: any = await import('@kindred-baton/store/cycles/get-plan'); return ask(store, actor, m.getPlan, 'ACC-2'); },
  acceptance: async () => { const m: any = await import('@kindred-baton/store/cycles/acceptance'); return ask(store, actor, m.getAcceptance, 'ACC-2'); },
  scenarios: async () => { const m: any = await import('@kindred-baton/store/scenarios/list-scenarios'); return ask(store, actor, m.listScenarios, { page: 1 }); },
  findings: async () => { const m: any = await import('@kindred-baton/store/tests/get-library-findings'); return ask(store, actor, m.getLibraryFindings, process.env.INPUT ? JSON.parse(process.env.INPUT) : {}); },
  overlaps: async () => { const m: any = await import('@kindred-baton/store/scenarios/get-overlaps'); return ask(store, actor, m.getOverlaps, undefined); },
  turns: async () => { const m: any = await import('@kindred-baton/store/turns/list-turns'); const c: any = await import('@kindred-baton/contracts/turns/turn'); return ask(store, actor, m.listTurns, { code: 'ACC-2', filter: {}, page: 1 } as any); },
};
for (const name of process.argv.slice(2)) {
  const all: number[] = []; const cpu: number[] = []; let out: any;
  for (let i = 0; i < 8; i++) { log.length = 0; const s = performance.now(); const c0 = process.cpuUsage(); out = await E[name]!(); all.push(performance.now() - s); const c1 = process.cpuUsage(c0); cpu.push((c1.user + c1.system) / 1000); }
  all.sort((a, b) => a - b);
  console.log(`== ${name}: ${all[3]!.toFixed(0)} ms (${all[0]!.toFixed(0)} to ${all[7]!.toFixed(0)}; cpu ${cpu.sort((a,b)=>a-b)[3]!.toFixed(0)}), ${(JSON.stringify(out).length / 1000).toFixed(0)} kB`, Object.fromEntries(Object.entries(out).map(([k, v]) => [k, Math.round(JSON.stringify(v ?? null).length / 1000)])));
  for (const [ms, rows, text] of log.sort((a, b) => b[0] - a[0]).slice(0, 7)) console.log(`   ${ms.toFixed(0)} ms ${rows} rows ${text}`);
}
await store.pool.end();
