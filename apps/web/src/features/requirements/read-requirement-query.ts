import { REQUIREMENT_GAPS } from '@kindred-baton/core/requirements/filter-requirements';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import { readPage } from '../../ui/pages.tsx';

type Text = string | undefined;

/** What an address asks of the requirements. What it does not know narrows by nothing. */
export function readRequirementQuery(get: (name: string) => string | null) {
  const among = (name: string, known: readonly string[]): Text => known.find((each) => each === get(name));
  const text = (name: string): Text => get(name) ?? undefined;
  return {
    ...{ scope: text('scope'), words: text('q'), requirement: text('requirement') },
    ...{ kind: among('kind', REQUIREMENT_KINDS), show: among('show', REQUIREMENT_GAPS), view: among('view', ['matrix']) },
    ...{ page: readPage(get('page')), across: readPage(get('across')) },
  };
}
