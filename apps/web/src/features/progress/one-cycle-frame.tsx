import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { ReactNode } from 'react';
import { formatSpan } from '../../ui/format.ts';
import { Choose } from '../../ui/menus/choose.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { NoCycle } from './no-cycle.tsx';
import { ProgressTabs } from './progress-tabs.tsx';

interface OfOneCycle {
  readonly cycle: ProgressView['chosen'][number] | null;
  readonly cycles: ProgressView['cycles'];
}

interface OneCycleFrameProps<Answer extends OfOneCycle> {
  readonly view: Parameters<typeof ProgressTabs>[0]['view'];
  readonly answer: Answer | undefined;
  readonly problem: string | undefined;
  /** What is said until there is an answer. */
  readonly waiting: string;
  /** Another answer is on its way. */
  readonly isOld: boolean;
  /** Other choices beside that of the cycle. */
  readonly more?: (answer: Answer) => ReactNode;
  readonly children: (answer: Answer, cycle: string) => ReactNode;
}

/** Around a view of progress that is of one cycle: which, and which views there are besides. */
export function OneCycleFrame<Answer extends OfOneCycle>({
  view,
  answer,
  problem,
  waiting,
  isOld,
  more,
  children,
}: OneCycleFrameProps<Answer>) {
  const address = useAddress();
  if (answer && !answer.cycle) return <NoCycle />;
  const cycle = answer?.cycle;
  return (
    <>
      <PageTitle title="Progress" about={cycle ? formatSpan(cycle.startsOn, cycle.endsOn) : undefined}>
        {answer && cycle && (
          <Choose
            label="Cycle"
            chosen={cycle.code}
            choices={answer.cycles.map(({ code, name }) => ({ key: code, name }))}
            onChoose={(code) => address.set({ cycle: code })}
          />
        )}
        {answer && cycle && more?.(answer)}
      </PageTitle>
      <ProgressTabs view={view} />
      {answer && cycle ? (
        <div className={isOld ? 'opacity-70' : ''}>{children(answer, cycle.code)}</div>
      ) : (
        <p className="text-soft">{problem ?? waiting}</p>
      )}
    </>
  );
}
