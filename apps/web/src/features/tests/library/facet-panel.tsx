import type { TestList } from '@kindred-baton/contracts/tests/library';
import type { TestFacet } from '@kindred-baton/core/tests/facets';
import { getStandingMark, isStanding } from '@kindred-baton/core/standing';
import { TEST_FACETS, TEST_FACET_NAMES } from '@kindred-baton/core/tests/facets';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { useAddress } from '../../frame/address-context.tsx';

const SHOWN = 8;

/** What the library can be narrowed by, each value with the tests that it would show. */
export function FacetPanel({ facets }: { readonly facets: TestList['facets'] }) {
  const address = useAddress();
  const chosen = TEST_FACET_NAMES.filter((name) => address.get(name) !== null);
  return (
    <section aria-label="Narrow by" className="card self-start pb-2">
      <div className="flex min-h-[41px] items-center justify-between px-3.5 pt-1">
        <h2 className="text-[13px] font-semibold text-soft">Narrow by</h2>
        {chosen.length > 0 && (
          <button
            type="button"
            className="button button-quiet button-small"
            onClick={() => address.set(Object.fromEntries(chosen.map((name) => [name, null])))}
          >
            Clear
          </button>
        )}
      </div>
      {TEST_FACET_NAMES.map((name) => (
        <Facet key={name} name={name} values={facets[name] ?? []} />
      ))}
    </section>
  );
}

function Facet({ name, values }: { readonly name: TestFacet; readonly values: TestList['facets'][TestFacet] }) {
  const address = useAddress();
  const chosen = (address.get(name) ?? '').split('|').filter((value) => value !== '');
  if (values.length === 0 || (values.length === 1 && chosen.length === 0)) return null;
  const toggle = (key: string) => {
    const next = chosen.includes(key) ? chosen.filter((value) => value !== key) : [...chosen, key];
    address.set({ [name]: next.length > 0 ? next.join('|') : null });
  };
  const line = ({ key, name: called, count }: (typeof values)[number]) => (
    <label key={key} className="flex min-h-[26px] cursor-pointer items-center gap-2 rounded-control px-1.5 text-[13px] hover:bg-band">
      <input type="checkbox" checked={chosen.includes(key)} onChange={() => toggle(key)} />
      {name === 'stands' && isStanding(key) && <BatonMark status={getStandingMark(key)} isDecoration />}
      <span className={`min-w-0 flex-1 truncate ${chosen.includes(key) ? 'font-semibold' : ''}`}>{called}</span>
      <span className="text-soft">{count.toLocaleString('en')}</span>
    </label>
  );
  return (
    <fieldset className="border-t border-line-2 px-2 py-2 first-of-type:border-t-0">
      <legend className="float-left w-full px-1.5 pb-0.5 text-[13px] font-semibold">{TEST_FACETS[name].label}</legend>
      <div className="clear-left">{values.slice(0, SHOWN).map(line)}</div>
      {values.length > SHOWN && (
        <details>
          <summary className="px-1.5 text-[13px] text-soft">{values.length - SHOWN} more</summary>
          {values.slice(SHOWN).map(line)}
        </details>
      )}
    </fieldset>
  );
}
