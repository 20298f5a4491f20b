import { useAddress } from '../features/frame/address-context.tsx';

interface ViewTabsProps<Key extends string> {
  readonly label: string;
  /** The first is what is shown without a word in the address. */
  readonly views: readonly { readonly key: Key; readonly name: string }[];
  readonly view: Key;
}

/** Several views of one thing, each with its address. */
export function ViewTabs<Key extends string>({ label, views, view }: ViewTabsProps<Key>) {
  const address = useAddress();
  return (
    <nav aria-label={label} className="mb-3 flex flex-wrap gap-1">
      {views.map(({ key, name }, index) => (
        <button
          key={key}
          type="button"
          className={`button button-small ${key === view ? 'border-ink! font-bold' : 'button-quiet'}`}
          aria-current={key === view ? 'page' : undefined}
          onClick={() => address.set({ view: index === 0 ? null : key })}
        >
          {name}
        </button>
      ))}
    </nav>
  );
}
