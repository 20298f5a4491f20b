import type { StepPlace } from '@kindred-baton/core/progress/same-steps';
import type { NamedThing, NamingStep, Ranking } from '@kindred-baton/core/progress/rank-things';
import { findThing } from '@kindred-baton/core/progress/rank-things';
import { eq, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { applications } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';

interface NamingVersion {
  readonly version: string;
  readonly application: string;
  /** For each step what it does, to what, and in which part or application. */
  readonly steps: readonly (readonly [NamingStep['do'], string, string | null])[];
}

/** What the steps of some versions name, of each no more than is needed to say where it stands. One query. */
export async function loadThings(
  context: ReadContext,
  versions: readonly string[],
  ranking: Exclude<Ranking, 'step'>,
): Promise<(step: StepPlace) => NamedThing | null> {
  const rows = await readPacked<NamingVersion>(context, {
    cells: {
      ...{ version: testVersions.id, application: sql`coalesce(${applications.name}, '')` },
      steps: sql`(select json_agg(json_build_array(step.value->>'do', step.value->>'target', step.value->>'within') order by step.ordinality)
        from jsonb_array_elements(${testVersions.steps}) with ordinality as step)`,
    },
    from: sql`from ${testVersions} join ${tests} on ${eq(tests.id, testVersions.testId)}
      left join ${applications} on ${eq(applications.id, tests.applicationId)}
      where ${testVersions.id} = any(${sql.param([...new Set(versions)])}::uuid[])`,
  });
  const known = new Map(
    rows.map(({ version, application, steps }) => [
      version,
      { application, steps: steps.map(([act, target, within]) => ({ do: act, target, ...(within === null ? {} : { within }) })) },
    ]),
  );
  return ({ version, index }) => {
    const own = known.get(version);
    return own ? findThing(ranking, own.steps, index, own.application) : null;
  };
}
