import { sql } from 'drizzle-orm';
import type { Found, FoundItem } from '@kindred-baton/contracts/find/find';
import { FIND_KINDS } from '@kindred-baton/contracts/find/find';
import type { Query } from '../operation.ts';

const SHOWN = 24;

interface FoundRow extends Record<string, unknown> {
  readonly kind: FoundItem['kind'];
  readonly code: string;
  readonly name: string;
  readonly context: string;
  readonly path: string;
}

/** Finds nodes, tests, scenarios, cycles, defects and turns by code or words, and a kept value with the turn that made it; what begins with the words comes first. One query. */
export const findAnything: Query<string, Found> = {
  right: 'read',
  read: async ({ db, actor }, words) => {
    if (words === '') return { found: [] };
    const like = `%${words.replace(/[\\%_]/g, '\\$&').replace(/\s+/g, '%')}%`;
    const start = `${words.replace(/[\\%_]/g, '\\$&')}%`;
    const here = actor.programmeId;
    // A value of the baton is found as a whole: by an index over all that was ever kept.
    const isKept = `$.* ? (@ == ${JSON.stringify(words)})`;
    const result = await db.execute<FoundRow>(sql`
      with found as (
        select 'node' as kind, n.code, n.name, coalesce(p.name, '') as context, '/map?node=' || n.code as path
          from nodes n left join nodes p on p.id = n.parent_id where n.programme_id = ${here} and (n.code || ' ' || n.name) ilike ${like}
        union all
        select 'test', t.code, t.name, coalesce(m.name, ''), '/tests/' || t.code
          from tests t left join teams m on m.id = t.team_id where t.programme_id = ${here} and (t.code || ' ' || t.name) ilike ${like}
        union all
        select 'scenario', s.code, s.name, n.name, '/scenarios/' || s.code
          from scenarios s join nodes n on n.id = s.node_id where s.programme_id = ${here} and s.only_test_id is null and (s.code || ' ' || s.name) ilike ${like}
        union all
        select 'cycle', c.code, c.name, c.state::text, '/cycles/' || c.code
          from cycles c where c.programme_id = ${here} and (c.code || ' ' || c.name) ilike ${like}
        union all
        select 'defect', d.code, d.title, d.status::text, '/defects/' || d.code
          from defects d where d.programme_id = ${here} and (d.code || ' ' || d.title) ilike ${like}
        union all
        (select 'turn', c.code || '/' || r.number, u.title, s.name || coalesce(', ' || r.row_name, ''), '/turns/' || u.id
          from turns u join runs r on r.id = u.run_id join scenarios s on s.id = r.scenario_id join cycles c on c.id = u.cycle_id
          where u.programme_id = ${here} and c.state in ('open', 'closing') and (u.title || ' ' || s.name || ' ' || c.code || '/' || r.number) ilike ${like}
          order by u.assignee_id = ${actor.personId} desc, u.due_on limit ${SHOWN})
        union all
        (select 'value', k.value, k.key || ' from ' || u.title, c.code || '/' || r.number || ' ' || s.name || coalesce(', ' || r.row_name, ''), '/turns/' || u.id
          from attempts a cross join jsonb_each_text(a.kept) k join turns u on u.id = a.turn_id join runs r on r.id = u.run_id
            join scenarios s on s.id = r.scenario_id join cycles c on c.id = u.cycle_id
          where a.programme_id = ${here} and a.kept @? ${isKept}::jsonpath and k.value = ${words} and a.finished_at is not null
          order by a.finished_at desc limit ${SHOWN})
      )
      select kind, code, name, context, path from found
      order by (code ilike ${start} or name ilike ${start}) desc, array_position(array[${sql.join(
        FIND_KINDS.map((kind) => sql`${kind}`),
        sql`, `,
      )}], kind), code limit ${SHOWN}`);
    return { found: result.rows };
  },
};
