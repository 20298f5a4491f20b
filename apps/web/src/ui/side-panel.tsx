import type { ReactNode } from 'react';

/** The detail of what is chosen, at the right. */
export function SidePanel({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <aside aria-label={label} className="card min-w-0 self-start">
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
