import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { MapImport } from './map-import.tsx';
import { RequirementImport } from './requirement-import.tsx';
import { ScenarioImport } from './scenario-import.tsx';
import { TestImport } from './test-import.tsx';
import { WorkbookImport } from './workbook-import.tsx';

/** What can be brought in, each by its own reader. */
const KINDS = [
  { key: 'map', name: 'Process list', View: MapImport },
  { key: 'tests', name: 'Tests in plain language', View: TestImport },
  { key: 'requirements', name: 'Requirements', View: RequirementImport },
  { key: 'scenario', name: 'A scenario', View: ScenarioImport },
  { key: 'workbook', name: 'Our own workbook', View: WorkbookImport },
] as const;

export function ImportApp(frame: PageProps<null>) {
  return (
    <AppFrame {...frame} area="map">
      <Imports />
    </AppFrame>
  );
}

function Imports() {
  const { can } = useProgramme();
  const address = useAddress();
  const asked = address.get('kind');
  const kind = KINDS.find(({ key }) => key === asked) ?? KINDS[0];
  if (!can('edit map')) return <PageTitle title="Only leads and authors import" />;
  return (
    <>
      <nav aria-label="What to import" className="mb-3 flex flex-wrap gap-1">
        {KINDS.map(({ key, name }) => (
          <button
            key={key}
            type="button"
            className={`button button-small ${key === kind.key ? 'border-ink! font-bold' : 'button-quiet'}`}
            aria-current={key === kind.key ? 'page' : undefined}
            onClick={() => address.set({ kind: key })}
          >
            {name}
          </button>
        ))}
      </nav>
      <kind.View key={kind.key} />
    </>
  );
}
