import type { ImportHead } from '@kindred-baton/contracts/imports/import';
import type { ReactNode } from 'react';
import { PageTitle } from '../../ui/page-title.tsx';
import { DropZone } from './drop-zone.tsx';
import { ProblemTable, WarningList } from './problem-table.tsx';
import type { Import } from './use-import.ts';

interface ImportFrameProps<Preview> {
  readonly work: Import<Preview>;
  readonly title: string;
  readonly about: string;
  /** Which files it takes. */
  readonly says: string;
  readonly accept: string;
  /** Whether storing would change nothing. */
  readonly isNothing: boolean;
  readonly done: { readonly label: string; readonly href: string };
  /** What goes along when the file is looked at, or stored. */
  readonly options?: object;
  readonly controls?: ReactNode;
  readonly children: ReactNode;
}

/** What all imports share: choose a file, see what it would bring and what is wrong in it, then take it in. */
export function ImportFrame<Preview extends ImportHead>(props: ImportFrameProps<Preview>) {
  const { work, title, about, says, accept, isNothing, done, options, controls, children } = props;
  const { preview, file, isBusy, problem } = work;
  return (
    <>
      <PageTitle title={title} about={about}>
        {controls}
        {preview?.isStored ? (
          <a className="button button-primary" href={done.href}>
            {done.label}
          </a>
        ) : (
          preview && (
            <button
              type="button"
              className="button button-primary"
              disabled={isBusy || preview.problems.length > 0 || isNothing}
              onClick={() => work.accept(options)}
            >
              {isBusy ? 'Working …' : 'Take it all in'}
            </button>
          )
        )}
      </PageTitle>
      {!preview?.isStored && (
        <DropZone {...{ isBusy, says, accept }} name={file?.name ?? null} onChoose={(chosen) => work.look(chosen)} onStop={work.stop} />
      )}
      {problem !== null && (
        <p role="alert" className="card mt-4 border-l-4 border-l-failed px-4 py-3 font-semibold">
          {problem} Nothing was stored.
        </p>
      )}
      {preview && (
        <div className="mt-4 grid gap-4">
          <ProblemTable problems={preview.problems} />
          <WarningList warnings={preview.warnings} />
          {children}
        </div>
      )}
    </>
  );
}
