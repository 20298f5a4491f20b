import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { FACET_SAYINGS } from '@kindred-baton/core/progress/facet';
import X from 'lucide-react/icons/x';
import { AddressLink } from '../../ui/address-link.tsx';
import type { TableQuery } from './table-query.ts';
import { FIRST_PAGE } from './table-query.ts';

/** From all processes to those that are looked at, and what else narrows the table; each goes back, or is taken away. Nothing where all is shown. */
export function WhereCrumbs({ view: { path }, query: { narrowed } }: { readonly view: ProgressView; readonly query: TableQuery }) {
  if (path.length === 0 && narrowed.length === 0) return null;
  const steps = [{ code: null, name: 'All processes' }, ...path];
  return (
    <nav aria-label="What is looked at" className="flex flex-wrap items-center gap-x-1 gap-y-1">
      {steps.map(({ code, name }, index) => (
        <span key={code}>
          {index > 0 && ' › '}
          {index === steps.length - 1 ? (
            <span aria-current="page">{name}</span>
          ) : (
            <AddressLink className="hover:underline" changes={{ scope: code, ...FIRST_PAGE }}>
              {name}
            </AddressLink>
          )}
        </span>
      ))}
      {narrowed.map(({ filter, value }) => {
        const said = FACET_SAYINGS[filter](value);
        return (
          <AddressLink
            key={filter}
            className="button button-small ml-2"
            changes={{ [filter]: null, ...FIRST_PAGE }}
            label={`Take away the filter ${said}`}
          >
            {said} <X size={14} aria-hidden />
          </AddressLink>
        );
      })}
    </nav>
  );
}
