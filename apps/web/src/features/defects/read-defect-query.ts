import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { HAPPENINGS } from '@kindred-baton/core/defects/happenings';
import { readPage } from '../../ui/pages.tsx';

const oneOf = <Value extends string>(known: readonly Value[], asked: string | null) => known.find((value) => value === asked);

/** What an address asks of the defects. */
export function readDefectQuery(get: (name: string) => string | null) {
  const text = (name: string) => get(name) || undefined;
  const among = (name: string, known: string) => (get(name) === known ? known : undefined);
  return {
    ...{ cycle: text('cycle'), severity: oneOf(SEVERITIES, get('severity')), happened: oneOf(HAPPENINGS, get('happened')), on: text('on') },
    ...{ scope: text('scope'), team: text('team'), with: text('with'), column: text('column') },
    ...{ show: among('show', 'all'), view: among('view', 'board'), page: readPage(get('page')) },
  };
}
