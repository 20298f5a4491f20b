import type { CoursePoint } from './lay-out-course.ts';
import { formatDay } from '../../../ui/format.ts';

const HEADS = ['Day', 'Planned', 'Through', 'Went wrong', 'In scope'];

interface CourseTableProps {
  readonly points: readonly CoursePoint[];
  /** Nothing is expected any more. */
  readonly isOver: boolean;
  readonly format: (value: number) => string;
  /** Where the turns that were tried on a day are listed. */
  readonly toDay: (date: string) => string;
}

/** What the picture draws, in numbers. */
export function CourseTable({ points, isOver, format, toDay }: CourseTableProps) {
  const heads = isOver ? HEADS : [...HEADS, 'Expected at least', 'Expected', 'Expected at most'];
  const cell = (value: number | null | undefined) => (value === null || value === undefined ? '–' : format(value));
  return (
    <div className="max-h-[380px] overflow-auto">
      <table className="grid-table">
        <thead>
          <tr>
            {heads.map((head, at) => (
              <th key={head} scope="col" className={at > 0 ? 'text-right!' : ''}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {points.map(({ day, date, planned, through, wrong, scope, forecast }) => {
            const expected = through === null ? forecast : null;
            return (
              <tr key={day}>
                <th scope="row" className="whitespace-nowrap text-ink!">
                  {through === null ? (
                    formatDay(date)
                  ) : (
                    <a className="inline-block min-h-[24px] hover:underline" href={toDay(date)}>
                      {formatDay(date)}
                    </a>
                  )}
                </th>
                {[planned, through, wrong, scope, ...(isOver ? [] : [expected?.low, expected?.middle, expected?.high])].map((value, at) => (
                  <td key={at} className="text-right font-mono">
                    {cell(value)}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
