import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getAcceptance } from './acceptance.ts';

describe('acceptance', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  it.each(['INT-1', 'ACC-2'])('of %s measures every branch as somebody does who walks down from each node', async (code) => {
    const { rows } = await db.store.db.execute<{
      code: string;
      passed: number;
      turns: number;
      defects: string[];
      requirements: string[];
    }>(sql`
      with recursive branch as (
        select id as top, id from nodes union all select branch.top, nodes.id from branch join nodes on nodes.parent_id = branch.id
      ), own as (
        select t.* from turns t join runs r on r.id = t.run_id join cycles c on c.id = t.cycle_id
        where c.code = ${code} and coalesce(r.left_to::text, '') <> 'taken out'
      )
      select top.code,
        (select count(*)::int from own where own.node_id in (select id from branch where branch.top = top.id) and own.status = 'passed') as passed,
        (select count(*)::int from own where own.node_id in (select id from branch where branch.top = top.id)) as turns,
        array(select distinct d.code from defects d join cycles c on c.id = d.cycle_id left join defect_turns l on l.defect_id = d.id left join turns t on t.id = l.turn_id
          where c.code = ${code} and d.status not in ('closed', 'declined') and coalesce(t.node_id, d.node_id) in (select id from branch where branch.top = top.id) order by 1) as defects,
        array(select distinct q.code from requirements q join requirement_nodes l on l.requirement_id = q.id
          where l.node_id in (select id from branch where branch.top = top.id) order by 1) as requirements
      from nodes top`);
    const byCode = new Map(rows.map((row) => [row.code, row]));
    const { nodes, counts } = await db.ask(lead, getAcceptance, code);
    expect(nodes.length).toBeGreaterThan(40);
    for (const node of nodes) {
      const own = byCode.get(node.code);
      const sum = Object.values(node.counts).reduce((total, turns) => total + turns, 0);
      expect({ code: node.code, passed: node.counts.passed, turns: sum }).toEqual({
        code: node.code,
        passed: own?.passed,
        turns: own?.turns,
      });
      expect([node.code, node.openDefects.map((defect) => defect.code).sort()]).toEqual([node.code, own?.defects]);
      expect([node.code, node.requirements.map((requirement) => requirement.code).sort()]).toEqual([node.code, own?.requirements]);
    }
    const streams = nodes.filter(({ depth }) => depth === 0).map(({ counts: own }) => own.passed);
    expect(streams.reduce((total, passed) => total + passed, 0)).toBe(counts.passed);
  });
});
