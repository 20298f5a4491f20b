import type { TestStanding } from '@kindred-baton/core/standing';
import { describeStanding, getStandingMark } from '@kindred-baton/core/standing';
import type { Proof, RequirementState } from '@kindred-baton/core/requirements/requirement';
import { describeProof } from '@kindred-baton/core/requirements/requirement';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { ReactNode } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from './to-turns-path.ts';

/** How a test stands: a mark that opens the turns it is over. */
export function StandingMark({ test, standing }: { readonly test: string; readonly standing: TestStanding | null }) {
  const { base } = useProgramme();
  if (standing === null) return null;
  const says = describeStanding(standing);
  return (
    <a
      className="inline-flex h-[24px] min-w-[24px] items-center justify-center"
      href={toTurnsPath({ base, cycle: standing.cycle, filters: { test } })}
      title={says}
      aria-label={says}
    >
      <BatonMark status={getStandingMark(standing.standing)} isDecoration />
    </a>
  );
}

const STATE_MARKS: Readonly<Record<RequirementState, TurnStatus>> = {
  verified: 'passed',
  refuted: 'failed',
  partly: 'under way',
  'not yet': 'waiting',
};

interface RequirementMarkProps {
  readonly code: string;
  readonly state: RequirementState;
  readonly proof: Proof;
  /** What stands beside the mark, and opens the same turns. */
  readonly children?: ReactNode;
}

/** What is shown of a requirement: a mark that opens the turns of its tests, of the cycle that the words name first. */
export function RequirementMark({ code, state, proof, children }: RequirementMarkProps) {
  const { base } = useProgramme();
  const cycle = proof.cycles[0]?.cycle;
  const says = `${state}: ${describeProof(proof)}`;
  const shown = (
    <>
      <BatonMark status={STATE_MARKS[state]} isDecoration />
      {children}
    </>
  );
  const look = 'inline-flex min-h-[24px] min-w-[24px] items-center gap-2';
  if (cycle === undefined)
    return (
      <span className={look} title={says}>
        {shown}
        {children === undefined && <span className="sr-only">{says}</span>}
      </span>
    );
  return (
    <a
      className={`${look} hover:underline`}
      href={toTurnsPath({ base, cycle, filters: { requirement: code } })}
      title={says}
      {...(children === undefined ? { 'aria-label': says } : {})}
    >
      {shown}
    </a>
  );
}

/** Over which turns of which cycles, each opening them. */
export function ProofLine({ code, proof }: { readonly code: string; readonly proof: Proof }) {
  const { base } = useProgramme();
  if (proof.cycles.length === 0) return <>{describeProof(proof)}</>;
  return (
    <>
      {proof.cycles.map((counted, index) => (
        <span key={counted.cycle}>
          {index > 0 && ', '}
          <a className="underline" href={toTurnsPath({ base, cycle: counted.cycle, filters: { requirement: code } })}>
            {describeProof({ cycles: [counted], untried: 0 })}
          </a>
        </span>
      ))}
      {proof.untried > 0 && ` · ${describeProof({ cycles: [], untried: proof.untried })}`}
    </>
  );
}
