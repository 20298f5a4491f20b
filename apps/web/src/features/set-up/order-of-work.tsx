import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useProgramme } from '../frame/programme-context.tsx';

/** What comes next, in the order of the work, until a first cycle is planned. */
export function OrderOfWork({ setUp }: { readonly setUp: SetUp }) {
  const { base } = useProgramme();
  const { counts } = setUp;
  const steps = [
    {
      name: 'Applications and environments',
      href: `${base}/set-up?view=applications`,
      isDone: setUp.applications.length > 0 && setUp.environments.length > 0,
    },
    { name: 'Teams, with days and hours', href: `${base}/set-up?view=teams`, isDone: setUp.teams.length > 0 },
    { name: 'People and their roles', href: `${base}/set-up?view=people`, isDone: setUp.people.length > 1 || setUp.invitations.length > 0 },
    { name: 'The process map', href: `${base}/map`, isDone: counts.nodes > 0 },
    { name: 'Owners of the processes', href: `${base}/map`, isDone: counts.owners > 0 },
    { name: 'Tests', href: `${base}/tests`, isDone: counts.tests > 0 },
    { name: 'Scenarios', href: `${base}/scenarios`, isDone: counts.scenarios > 0 },
    { name: 'A first cycle', href: `${base}/cycles/new`, isDone: counts.cycles > 0 },
  ];
  const next = steps.find(({ isDone }) => !isDone);
  if (!next) return null;
  return (
    <section className="card mb-4 px-5 py-4" aria-labelledby="order">
      <h2 id="order" className="text-[17px]">
        Next: {next.name.toLowerCase()}
      </h2>
      <ol className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        {steps.map(({ name, href, isDone }, index) => (
          <li key={name} className={isDone ? 'text-soft' : ''}>
            <span className="mr-1 font-mono text-[13px]">{index + 1}</span>
            <a className={`hover:underline ${name === next.name ? 'font-bold underline' : ''}`} href={href}>
              {name}
            </a>
            {isDone && <span className="text-[13px]"> done</span>}
          </li>
        ))}
      </ol>
    </section>
  );
}
