import type { CourseView, PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { Outlook } from '@kindred-baton/contracts/progress/outlook';
import type { CourseFacts } from '@kindred-baton/core/progress/course';
import type { TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { FORECAST_PATHS } from '@kindred-baton/core/progress/forecast';
import { OddsPanel } from './odds-panel.tsx';
import { RemediesPanel } from './remedies-panel.tsx';
import { SincePanel } from './since-panel.tsx';

interface CourseSideProps {
  readonly course: PackedCourse;
  readonly cycle: NonNullable<CourseView['cycle']>;
  readonly scope: string | null;
  readonly facts: CourseFacts;
  readonly forecast: Forecast | null;
  readonly remedies: readonly TriedRemedy[] | null;
  /** null until it is there. */
  readonly outlook: Outlook | null;
  readonly helpPath: string;
  readonly toTurns: (filters: Record<string, string>) => string;
  /** How it will end, as the first line says. */
  readonly end: string;
}

/** Beside the picture: the odds, what would help, and what changed. */
export function CourseSide({ course, cycle, scope, facts, forecast, remedies, outlook, helpPath, toTurns, end }: CourseSideProps) {
  return (
    <div className="grid gap-4">
      {!forecast && (
        <p className="card min-h-[240px] px-4 py-3.5 text-[13px] text-soft">Drawing {FORECAST_PATHS.toLocaleString('en')} ends …</p>
      )}
      {forecast && (
        <>
          <OddsPanel course={course} facts={facts} forecast={forecast} />
          <RemediesPanel {...{ cycle: cycle.code, course, forecast, remedies, outlook, helpPath, isBranch: scope !== null }} />
        </>
      )}
      <SincePanel cycle={cycle} scope={scope} end={end} toTurns={toTurns} />
    </div>
  );
}
