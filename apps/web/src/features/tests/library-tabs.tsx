import { useAddress } from '../frame/address-context.tsx';

export const LIBRARY_VIEWS = [
  { key: 'list', name: 'All tests' },
  { key: 'look', name: 'Worth a look' },
  { key: 'personas', name: 'Personas' },
] as const;
export type LibraryView = (typeof LIBRARY_VIEWS)[number]['key'];

/** The library's views, each with its address. */
export function LibraryTabs({ view }: { readonly view: LibraryView }) {
  const address = useAddress();
  return (
    <nav aria-label="Views of the library" className="mb-3 flex flex-wrap gap-1">
      {LIBRARY_VIEWS.map(({ key, name }) => (
        <button
          key={key}
          type="button"
          className={`button button-small ${key === view ? 'border-ink! font-bold' : 'button-quiet'}`}
          aria-current={key === view ? 'page' : undefined}
          onClick={() => address.set({ view: key === 'list' ? null : key })}
        >
          {name}
        </button>
      ))}
    </nav>
  );
}
