import type { FacetName } from '@kindred-baton/core/progress/facet';
import { FACETS, getFacetFilter, getFacetLabel, NONE } from '@kindred-baton/core/progress/facet';
import Plus from 'lucide-react/icons/plus';
import { useState } from 'react';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';

/** Its cycles are in its path. */
const OFFERED = FACETS.filter((facet) => facet !== 'cycle');

/** Narrows the list by the values that its turns have, each with how many. */
export function AddFilter({ cycle }: { readonly cycle: string }) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <button type="button" className="button button-small" onClick={() => setIsOpen(true)}>
        <Plus size={14} aria-hidden /> Add a filter
      </button>
      {isOpen && <FilterDialog cycle={cycle} onClose={() => setIsOpen(false)} />}
    </>
  );
}

function FilterDialog({ cycle, onClose }: { readonly cycle: string; readonly onClose: () => void }) {
  const { set, get } = useAddress();
  const [facet, setFacet] = useState<FacetName>('team');
  return (
    <DialogBox title="Add a filter" isOpen onClose={onClose}>
      <SelectField label="By" name="facet" value={facet} onChange={({ target }) => setFacet(target.value as FacetName)}>
        {OFFERED.map((key) => (
          <option key={key} value={key}>
            {getFacetLabel(key)}
          </option>
        ))}
      </SelectField>
      <Values
        key={facet}
        {...{ cycle, facet, scope: get('scope') }}
        onChoose={(value) => {
          set({ [getFacetFilter(facet)]: value, page: null });
          onClose();
        }}
      />
    </DialogBox>
  );
}

interface ValuesProps {
  readonly cycle: string;
  readonly facet: FacetName;
  readonly scope: string | null;
  readonly onChoose: (value: string) => void;
}

/** The values as the table of progress has them, a page at a time; counted over the cycles and the scope, whatever else narrows the list. */
function Values({ cycle, facet, scope, onChoose }: ValuesProps) {
  const [from, setFrom] = useState(0);
  const columns = facet === 'priority' ? 'team' : 'priority';
  const input = { cycle, rows: facet, columns, fromRow: from, ...(scope === null ? {} : { scope }) };
  const { data, error } = useRead('getProgress', { input });
  if (!data) return <p className="text-soft">{error ? error.message : 'Looking for values …'}</p>;
  const { entries, size, from: first } = data.rows;
  return (
    <>
      <ul className="max-h-[300px] overflow-y-auto">
        {entries.map(({ key, name, group, counts }) => (
          <li key={key}>
            <button
              type="button"
              className="flex min-h-[28px] w-full justify-between gap-3 rounded-control px-2 text-left hover:bg-band"
              onClick={() => onChoose(key === '' ? NONE : key)}
            >
              <span className="min-w-0 break-words">
                {name}
                {group !== '' && <span className="text-soft"> · {group}</span>}
              </span>
              <span className="text-soft">
                {countOf(
                  Object.values(counts).reduce((sum, count) => sum + count, 0),
                  'turn',
                )}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {size > entries.length && (
        <p className="mt-2 flex items-center justify-between gap-2 text-[13px]">
          <button
            type="button"
            className="button button-small"
            disabled={first === 0}
            onClick={() => setFrom(Math.max(0, first - entries.length))}
          >
            Before
          </button>
          {first + 1} to {first + entries.length} of {size.toLocaleString('en')}
          <button
            type="button"
            className="button button-small"
            disabled={first + entries.length >= size}
            onClick={() => setFrom(first + entries.length)}
          >
            After
          </button>
        </p>
      )}
    </>
  );
}
