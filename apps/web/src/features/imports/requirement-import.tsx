import type { RequirementImportPreview } from '@kindred-baton/contracts/imports/import';
import { REQUIREMENT_COLUMNS } from '@kindred-baton/core/imports/requirement-table';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { ChangeTable } from './change-table.tsx';
import { ColumnsCard } from './columns-card.tsx';
import { ImportFrame } from './import-frame.tsx';
import { useImport } from './use-import.ts';

interface Options {
  readonly sheet?: string | undefined;
  readonly columns?: RequirementImportPreview['taken'] | undefined;
}

/** A list of requirements, compared with those that are there. */
export function RequirementImport() {
  const { api, base } = useProgramme();
  const work = useImport<RequirementImportPreview>(`${api}/requirements/import`);
  const [options, setOptions] = useState<Options>({});
  const { preview, file } = work;
  const lookAgain = (next: Options) => {
    setOptions(next);
    if (file) work.look(file, next);
  };
  return (
    <ImportFrame
      work={{ ...work, look: (chosen) => (setOptions({}), work.look(chosen)) }}
      title="Import requirements"
      about={describe(preview)}
      says="XLSX, CSV or ReqIF, up to 50 MB."
      accept=".xlsx,.csv,.tsv,.txt,.reqif,.xml"
      isNothing={preview !== null && preview.counts.new + preview.counts.changed === 0}
      options={options}
      done={{ label: 'See the requirements', href: `${base}/requirements` }}
    >
      {preview && !preview.isStored && (
        <>
          {preview.columns && (
            <ColumnsCard
              columns={preview.columns}
              fields={REQUIREMENT_COLUMNS}
              taken={preview.taken}
              onTake={(field, column) => lookAgain({ sheet: preview.columns?.sheet, columns: { ...preview.taken, [field]: column } })}
              onSheet={(sheet) => lookAgain({ sheet })}
            />
          )}
          <ChangeTable lines={preview.differences} />
        </>
      )}
    </ImportFrame>
  );
}

function describe(preview: RequirementImportPreview | null): string {
  if (!preview) return 'what must hold, with its links to processes and tests';
  if (preview.isStored) return `${preview.file} is taken in`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored`;
  const { counts } = preview;
  const parts = [`${counts.new} new`, `${counts.changed} changed`, `${counts.same} the same`];
  return `${parts.join(', ')}${counts.missing > 0 ? ` · ${counts.missing} not in the file, which stay` : ''}`;
}
