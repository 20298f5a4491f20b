import type { ReactNode } from 'react';

interface SidePanelProps {
  readonly label: string;
  /** What Esc does while something in it has the focus. */
  readonly onEscape?: () => void;
  readonly children: ReactNode;
}

/** The detail of what is chosen, at the right. */
export function SidePanel({ label, onEscape, children }: SidePanelProps) {
  return (
    // Keys come from the controls within; the panel only hears them.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <aside aria-label={label} className="card min-w-0 self-start" onKeyDown={(event) => event.key === 'Escape' && onEscape?.()}>
      {children}
    </aside>
  );
}

export function PanelPart({ title, children, count }: { readonly title: string; readonly children: ReactNode; readonly count?: number }) {
  return (
    <section className="border-t border-line-2 px-4 py-3 first:border-t-0">
      <h3 className="mb-1.5 font-bold">
        {title}
        {count !== undefined && <span className="ml-2 font-normal text-soft">{count}</span>}
      </h3>
      {children}
    </section>
  );
}
