import { PageTitle } from '../../ui/page-title.tsx';

export function TestImport() {
  return <PageTitle title="Import tests" />;
}
