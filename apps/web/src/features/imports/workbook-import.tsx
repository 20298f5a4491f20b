import type { WorkbookImportOptions, WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import FileDown from 'lucide-react/icons/file-down';
import { useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';
import { countTaken, describeWorkbook } from './describe-workbook.ts';
import { ImportFrame } from './import-frame.tsx';
import { WorkbookPreview } from './workbook-preview.tsx';
import { useImport } from './use-import.ts';

/** Our own workbook with processes, tests and scenarios: three lists in one, each compared with what is there. */
export function WorkbookImport() {
  const { api, base } = useProgramme();
  const work = useImport<WorkbookImportPreview>(`${api}/imports`);
  const [agreesNew, setAgreesNew] = useState(true);
  const { preview } = work;
  const options: WorkbookImportOptions = { agreesNew };
  const brings = preview ? preview.tests.counts.new + preview.scenarios.counts.new : 0;
  return (
    <ImportFrame
      work={work}
      title="Import a workbook"
      about={describeWorkbook(preview)}
      says="An .xlsx file with the sheets Processes, Tests and Scenarios, up to 50 MB."
      accept=".xlsx"
      isNothing={preview !== null && countTaken(preview) === 0}
      options={options}
      done={{ label: 'See it on the map', href: `${base}/map` }}
      controls={
        <a className="button" href={`${api}/imports/template`} download>
          <FileDown size={17} aria-hidden /> Empty template
        </a>
      }
    >
      {preview && !preview.isStored && (
        <>
          {brings > 0 && (
            <label className="card flex items-center gap-2 px-4 py-3 text-[13px]">
              <input type="checkbox" checked={agreesNew} onChange={(event) => setAgreesNew(event.target.checked)} />
              Agree what is new: its steps and legs are shown below. Else tests come in as drafts, scenarios as sketches.
            </label>
          )}
          <WorkbookPreview preview={preview} />
        </>
      )}
    </ImportFrame>
  );
}
