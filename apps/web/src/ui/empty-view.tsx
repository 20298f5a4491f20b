import type { ReactNode } from 'react';

/** What belongs here, and the first step. */
export function EmptyView({ title, children }: { readonly title: string; readonly children?: ReactNode }) {
  return (
    <div className="px-6 py-12 text-center">
      <p className="text-[17px] font-bold">{title}</p>
      <div className="mx-auto mt-2 max-w-[46ch] text-soft">{children}</div>
    </div>
  );
}
