import { EmptyView } from '../../ui/empty-view.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

export function NoCycle() {
  const { base, can } = useProgramme();
  return (
    <>
      <PageTitle title="Progress" />
      <div className="card">
        <EmptyView title="There is no cycle yet">
          <p>Progress shows how a cycle is going, by process and by team, and where its baton is held.</p>
          {can('run cycles') && (
            <a className="button button-primary mt-4" href={`${base}/cycles/new`}>
              Plan a cycle
            </a>
          )}
        </EmptyView>
      </div>
    </>
  );
}
