import type { ReactNode } from 'react';
import { useAddress } from '../features/frame/address-context.tsx';

interface ViewTabsProps<Key extends string> {
  readonly label: string;
  /** The first is what is shown without a word in the address. */
  readonly views: readonly { readonly key: Key; readonly name: string }[];
  readonly view: Key;
  /** What is beside the tabs. */
  readonly children?: ReactNode;
}

/** Several views of one thing, each with its address. */
export function ViewTabs<Key extends string>({ label, views, view, children }: ViewTabsProps<Key>) {
  const address = useAddress();
  return (
    <div className="no-print mb-3 flex flex-wrap items-center justify-between gap-2">
      <nav aria-label={label} className="flex flex-wrap gap-1">
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
      {children !== undefined && <div className="flex flex-wrap items-center gap-1">{children}</div>}
    </div>
  );
}
