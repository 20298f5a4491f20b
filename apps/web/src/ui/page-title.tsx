import type { ReactNode } from 'react';

interface PageTitleProps {
  readonly title: ReactNode;
  readonly crumbs?: ReactNode;
  readonly about?: ReactNode;
  readonly children?: ReactNode;
}

/** The title row: where we are, what this is, and its few controls. */
export function PageTitle({ title, crumbs, about, children }: PageTitleProps) {
  return (
    <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <div className="min-w-0">
        {crumbs !== undefined && <div className="mb-0.5 text-[13px] text-soft">{crumbs}</div>}
        <div className="flex flex-wrap items-baseline gap-x-3">
          <h1 className="min-w-0 break-words">{title}</h1>
          {about !== undefined && <span className="text-[13px] text-soft">{about}</span>}
        </div>
      </div>
      <div className="no-print flex flex-wrap items-center gap-2">{children}</div>
    </div>
  );
}

export function Crumbs({
  path,
  base,
}: {
  readonly path: readonly { readonly code: string; readonly name: string }[];
  readonly base: string;
}) {
  return (
    <nav aria-label="Where this is on the map">
      {path.map((node, index) => (
        <span key={node.code}>
          {index > 0 && ' › '}
          <a className="hover:underline" href={`${base}/map?node=${node.code}`}>
            {node.name}
          </a>
        </span>
      ))}
    </nav>
  );
}
