import type { ExitResult } from '@kindred-baton/core/progress/check-exit';
import { describeExitRule } from '@kindred-baton/core/progress/check-exit';
import { countOf, formatShare } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { toTurnsPath } from '../../progress/to-turns-path.ts';

interface CriteriaProps {
  readonly criteria: readonly ExitResult[];
  readonly cycle: string;
  readonly node?: string;
}

/** Exit criteria, each with its figure and what keeps it from being met. */
export function Criteria({ criteria, cycle, node }: CriteriaProps) {
  const { viewer } = useProgramme();
  return (
    <ul className="grid gap-1.5">
      {criteria.map((criterion) => (
        <li
          key={JSON.stringify(criterion.rule)}
          className={`border-l-[3px] pl-2.5 text-[13px] ${criterion.isMet ? 'border-l-passed' : 'border-l-failed'}`}
        >
          <b>{criterion.isMet ? 'Met' : 'Not met'}</b>: {describeExitRule(criterion.rule, viewer.programme.severityNames)}
          <span className="block text-soft">
            <Figure criterion={criterion} /> <Open criterion={criterion} cycle={cycle} node={node} />
          </span>
        </li>
      ))}
      {criteria.length === 0 && <li className="text-[13px] text-soft">This cycle has none.</li>}
    </ul>
  );
}

function Figure({ criterion: { rule, figure } }: { readonly criterion: ExitResult }) {
  if (rule.kind === 'open defects') return <>{countOf(figure ?? 0, 'open defect')}.</>;
  if (rule.kind === 'critical nodes signed off') return <>{figure ?? 0} signed off.</>;
  return <>{formatShare(figure, 1)} now.</>;
}

function Open({
  criterion: { rule, open },
  cycle,
  node,
}: {
  readonly criterion: ExitResult;
  readonly cycle: string;
  readonly node: string | undefined;
}) {
  const { base } = useProgramme();
  if (open.length === 0) return null;
  if (rule.kind === 'run share' || rule.kind === 'pass share')
    return (
      <a
        className="underline"
        href={toTurnsPath({ base, cycle, filters: { status: open.join(','), ...(node === undefined ? {} : { node }) } })}
      >
        The turns behind it
      </a>
    );
  const path = {
    'open defects': 'defects/',
    'requirements verified': 'requirements?requirement=',
    'critical nodes signed off': 'map?node=',
  }[rule.kind];
  return open.slice(0, 12).map((code) => (
    <a key={code} className="mr-1.5 underline" href={`${base}/${path}${encodeURIComponent(code)}`}>
      {code}
    </a>
  ));
}
