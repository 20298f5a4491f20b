import type { ImportPreview } from '@kindred-baton/contracts/imports/import';
import FileDown from 'lucide-react/icons/file-down';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { ImportFrame } from './import-frame.tsx';
import { WorkbookPreview } from './workbook-preview.tsx';
import { useImport } from './use-import.ts';

/** Our own workbook with processes, tests and scenarios. */
export function WorkbookImport() {
  const { api, base } = useProgramme();
  const work = useImport<ImportPreview>(`${api}/imports`);
  const { preview } = work;
  return (
    <ImportFrame
      work={work}
      title="Import a workbook"
      about={describe(preview)}
      says="An .xlsx file with the sheets Processes, Tests and Scenarios, up to 50 MB."
      accept=".xlsx"
      isNothing={preview !== null && isNothing(preview)}
      done={{ label: 'See it on the map', href: `${base}/map` }}
      controls={
        <a className="button" href={`${api}/imports/template`} download>
          <FileDown size={17} aria-hidden /> Empty template
        </a>
      }
    >
      {preview && <WorkbookPreview preview={preview} />}
    </ImportFrame>
  );
}

const isNothing = ({ nodes, tests, scenarios }: ImportPreview) => nodes.length + tests.length + scenarios.length === 0;

function describe(preview: ImportPreview | null): string {
  if (!preview) return 'processes, tests with their steps, and scenarios';
  if (preview.isStored) return `${preview.file} is stored, all of it`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored`;
  return isNothing(preview) ? `everything in ${preview.file} is there already` : `nothing is stored yet`;
}
