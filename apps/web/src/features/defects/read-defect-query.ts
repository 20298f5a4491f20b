import { readPage } from '../../ui/pages.tsx';

/** What an address asks of the defects. */
export function readDefectQuery(get: (name: string) => string | null) {
  const text = (name: string) => get(name) || undefined;
  const among = (name: string, known: string) => (get(name) === known ? known : undefined);
  return {
    ...{ scope: text('scope'), team: text('team'), with: text('with'), column: text('column') },
    ...{ show: among('show', 'all'), view: among('view', 'board'), page: readPage(get('page')) },
  };
}
