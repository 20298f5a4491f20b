import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { CYCLE_GROUPS, getCycleGroupLabel } from '@kindred-baton/core/cycles/cycle-groups';
import { COUNTED, getCountedLabel, getPartLabel, PARTS } from '@kindred-baton/core/progress/counted';
import { FACETS, getFacetLabel } from '@kindred-baton/core/progress/facet';
import { getSortLabel, isSortFor, LINE_SORTS } from '@kindred-baton/core/progress/sort-lines';
import { countOf } from '../../ui/format.ts';
import { Choose } from '../../ui/menus/choose.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { joinCodes } from './join-codes.ts';
import type { TableQuery } from './table-query.ts';
import { FIRST_PAGE } from './table-query.ts';

interface ControlProps {
  readonly query: TableQuery;
}

/** One cycle, a group of them, or several beside each other. */
export function CycleChoice({ view, query }: ControlProps & { readonly view: ProgressView }) {
  const address = useAddress();
  const { chosen, cycles } = view;
  const asked = address.get('cycle') ?? joinCodes(view);
  const single = cycles.map(({ code, name }) => ({ key: code, name }));
  const known = [...CYCLE_GROUPS.map((group) => ({ key: group as string, name: getCycleGroupLabel(group) })), ...single];
  const several = known.some(({ key }) => key === asked) ? [] : [{ key: asked, name: countOf(chosen.length, 'cycle') }];
  const others = single.filter(({ key }) => chosen.every(({ code }) => code !== key));
  /** Rounds are compared side by side, until somebody says otherwise. */
  const beside: Record<string, string> = query.rows === 'cycle' || query.columns === 'cycle' ? {} : { columns: 'cycle' };
  return (
    <>
      <Choose
        label="Cycle"
        chosen={asked}
        choices={[...several, ...known]}
        onChoose={(cycle) => address.set({ cycle, ...FIRST_PAGE, holdsOf: null, ...(cycle.startsWith('@') ? beside : {}) })}
      />
      {others.length > 0 && (
        <Choose
          label="Compare with"
          chosen={null}
          choices={others}
          onChoose={(code) => address.set({ cycle: [...chosen.map((each) => each.code), code].join(','), ...FIRST_PAGE, ...beside })}
        />
      )}
    </>
  );
}

export function FacetChoice({ query: { rows, columns } }: ControlProps) {
  const address = useAddress();
  const facets = FACETS.map((facet) => ({ key: facet, name: getFacetLabel(facet) }));
  return (
    <>
      <Choose
        label="Rows"
        chosen={rows}
        choices={facets.filter(({ key }) => key !== columns)}
        onChoose={(key) => address.set({ rows: key, ...FIRST_PAGE })}
      />
      <Choose
        label="Columns"
        chosen={columns}
        choices={facets.filter(({ key }) => key !== rows)}
        onChoose={(key) => address.set({ columns: key, ...FIRST_PAGE })}
      />
    </>
  );
}

const OWN_ORDER = 'own';

/** What is counted, what of it is shown, and what comes first. */
export function ShownChoice({ query: { counted, parts, sort } }: ControlProps) {
  const address = useAddress();
  const toggle = (part: (typeof PARTS)[number]) => {
    const next = PARTS.filter((each) => (each === part ? !parts.includes(each) : parts.includes(each)));
    address.set({ parts: next.length === PARTS.length || next.length === 0 ? null : next.join(',') });
  };
  const sorts = LINE_SORTS.filter((each) => isSortFor(each, parts)).map((each) => ({ key: each as string, name: getSortLabel(each) }));
  return (
    <div className="no-print mb-2 flex flex-wrap items-center gap-2">
      <span role="group" aria-label="What of it is shown" className="flex flex-wrap gap-1">
        {PARTS.map((part) => (
          <button
            key={part}
            type="button"
            className="button button-small aria-pressed:bg-band aria-pressed:font-bold"
            aria-pressed={parts.includes(part)}
            onClick={() => toggle(part)}
          >
            {getPartLabel(part)}
          </button>
        ))}
      </span>
      <span className="ml-auto flex flex-wrap gap-2">
        <Choose
          label="Count"
          chosen={counted}
          choices={COUNTED.map((each) => ({ key: each, name: getCountedLabel(each) }))}
          onChoose={(key) => address.set({ counted: key === 'turns' ? null : key })}
        />
        <Choose
          label="Sort"
          chosen={sort ?? OWN_ORDER}
          choices={[{ key: OWN_ORDER, name: 'In their own order' }, ...sorts]}
          onChoose={(key) => address.set({ sort: key === OWN_ORDER ? null : key, fromRow: null })}
        />
      </span>
    </div>
  );
}
