import type { Severity } from '@kindred-baton/core/defects/defect';
import type { Happening } from '@kindred-baton/core/defects/happenings';
import { readPage } from '../../ui/pages.tsx';

/** What an address asks of the defects; a severity or a happening that there is none of is refused, not dropped. */
export function readDefectQuery(get: (name: string) => string | null) {
  const text = (name: string) => get(name) || undefined;
  const among = (name: string, known: string) => (get(name) === known ? known : undefined);
  return {
    ...{
      cycle: text('cycle'),
      severity: text('severity') as Severity | undefined,
      happened: text('happened') as Happening | undefined,
      on: text('on'),
    },
    ...{ scope: text('scope'), team: text('team'), with: text('with'), column: text('column') },
    ...{ show: among('show', 'all'), view: among('view', 'board'), page: readPage(get('page')) },
  };
}
