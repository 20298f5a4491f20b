import type { CourseView as CourseAnswer } from '@kindred-baton/contracts/progress/course';
import type { DefectCourseView } from '@kindred-baton/contracts/progress/defects';
import type { Effort } from '@kindred-baton/contracts/progress/effort';
import type { TeamProgress } from '@kindred-baton/contracts/progress/teams';
import type { WrongSteps } from '@kindred-baton/contracts/progress/wrong-steps';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { CourseView } from './course/course-view.tsx';
import { DefectsView } from './defects/defects-view.tsx';
import { EffortView } from './effort/effort-view.tsx';
import { TeamsView } from './teams-view.tsx';
import type { WhereAnswer } from './where-view.tsx';
import { WhereView } from './where-view.tsx';
import { WrongStepsView } from './wrong-steps-view.tsx';

/** What the page came with: the answer of the view that its address names. */
export type ProgressContent =
  | { readonly view: 'course'; readonly answer: CourseAnswer }
  | { readonly view: 'effort'; readonly answer: Effort }
  | { readonly view: 'defects'; readonly answer: DefectCourseView }
  | { readonly view: 'teams'; readonly answer: TeamProgress }
  | { readonly view: 'where'; readonly answer: WhereAnswer }
  | { readonly view: 'steps'; readonly answer: WrongSteps };

export function ProgressApp({ content, ...frame }: PageProps<ProgressContent>) {
  return (
    <AppFrame {...frame} area="progress">
      <Shown content={content} initialAddress={frame.address} />
    </AppFrame>
  );
}

function Shown({ content, initialAddress }: { readonly content: ProgressContent; readonly initialAddress: string }) {
  const asked = useAddress().get('view');
  if (asked === 'course') return <CourseView initial={content.view === 'course' ? content.answer : null} initialAddress={initialAddress} />;
  if (asked === 'teams') return <TeamsView initial={content.view === 'teams' ? content.answer : null} initialAddress={initialAddress} />;
  if (asked === 'effort') return <EffortView initial={content.view === 'effort' ? content.answer : null} initialAddress={initialAddress} />;
  if (asked === 'defects')
    return <DefectsView initial={content.view === 'defects' ? content.answer : null} initialAddress={initialAddress} />;
  return asked === 'steps' ? (
    <WrongStepsView initial={content.view === 'steps' ? content.answer : null} initialAddress={initialAddress} />
  ) : (
    <WhereView initial={content.view === 'where' ? content.answer : null} initialAddress={initialAddress} />
  );
}
