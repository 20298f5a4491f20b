import type { TestImportOptions, TestImportPreview } from '@kindred-baton/contracts/imports/import';
import type { TestGrouping, TestMapping } from '@kindred-baton/core/imports/test-table';
import { TEST_COLUMNS, TEST_GROUPINGS, TEST_GROUPING_LABELS } from '@kindred-baton/core/imports/test-table';
import { useState } from 'react';
import { FileButton } from '../../ui/file-button.tsx';
import { countOf } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NodeField } from '../map/node-field.tsx';
import { ChangeTable } from './change-table.tsx';
import { ColumnsCard } from './columns-card.tsx';
import { ImportFrame } from './import-frame.tsx';
import { useImport } from './use-import.ts';

type Options = Pick<TestImportOptions, 'sheet' | 'mapping'> & { activity: string | null };

/** Tests in plain language, compared with the library; what is not understood is shown before it is taken in. */
export function TestImport() {
  const { api, base } = useProgramme();
  const { withScope, get } = useAddress();
  const first: Options = { activity: get('scope') };
  const work = useImport<TestImportPreview>(`${api}/library/import`);
  const [options, setOptions] = useState<Options>(first);
  const { preview, file } = work;
  const lookAgain = (change: Partial<Options>) => {
    const next = { ...options, ...change };
    setOptions(next);
    if (file) work.look(file, next);
  };
  return (
    <ImportFrame
      work={{ ...work, look: (chosen) => (setOptions(first), work.look(chosen, first)) }}
      title="Import tests"
      about={describe(preview)}
      says="XLSX, CSV, Gherkin (.feature) or what a browser’s recorder wrote (.json), up to 50 MB. One row a step, or one cell a sentence; ordinary English is understood."
      accept=".xlsx,.csv,.tsv,.txt,.feature,.json"
      isNothing={preview !== null && preview.counts.new + preview.counts.changed === 0}
      options={options}
      done={{ label: 'See them in the library', href: withScope(`${base}/tests`) }}
    >
      {preview && !preview.isStored && (
        <>
          {preview.columns && preview.mapping && (
            <ColumnsCard
              columns={preview.columns}
              fields={SHOWN_FIRST}
              taken={preview.mapping.columns}
              onTake={(field, column) =>
                lookAgain({ sheet: preview.columns?.sheet, mapping: withColumn(preview.mapping, field, column) as Options['mapping'] })
              }
              onSheet={(sheet) => lookAgain({ sheet, mapping: undefined })}
            >
              <label className="text-[13px]">
                Tests are told apart by
                <select
                  className="field mt-0.5"
                  value={preview.mapping.grouping}
                  onChange={(event) =>
                    lookAgain({
                      mapping: { ...(preview.mapping as TestMapping), grouping: event.target.value as TestGrouping } as Options['mapping'],
                    })
                  }
                >
                  {TEST_GROUPINGS.map((grouping) => (
                    <option key={grouping} value={grouping}>
                      {TEST_GROUPING_LABELS[grouping]}
                    </option>
                  ))}
                </select>
              </label>
            </ColumnsCard>
          )}
          <div className="card flex flex-wrap items-end gap-x-5 gap-y-2 px-4 py-3">
            <div className="-mb-3">
              <NodeField
                label="Tests that name no activity go to"
                name="activity"
                none="none; it has to be in the file"
                value={options.activity}
                onChange={(activity) => lookAgain({ activity })}
              />
            </div>
            <DataFile name={work.more?.name ?? null} onChoose={(more) => work.lookWith(more, options)} />
          </div>
          <HandSteps steps={preview.handSteps} count={preview.byHand} />
          <ChangeTable lines={preview.differences.map(({ steps, ...line }) => ({ ...line, parts: steps }))} />
        </>
      )}
    </ImportFrame>
  );
}

/** What tells a test and its steps first. */
const ORDER = ['test', 'name', 'step', 'target', 'value', 'expect', 'keepAs', 'as'];
const rank = (field: string) => (ORDER.indexOf(field) + ORDER.length + 1) % (ORDER.length + 1);
const SHOWN_FIRST = [...TEST_COLUMNS].sort((a, b) => rank(a.field) - rank(b.field));

function withColumn(mapping: TestImportPreview['mapping'], field: string, column: number | undefined): TestMapping {
  const { grouping, columns } = mapping ?? { grouping: 'id' as const, columns: {} };
  return { grouping, columns: { ...columns, [field]: column } };
}

/** A second file with the data rows. */
function DataFile({ name, onChoose }: { readonly name: string | null; readonly onChoose: (file: File | null) => void }) {
  return (
    <div className="flex min-h-[34px] items-center gap-2 text-[13px]">
      <FileButton label="File with data rows" accept=".xlsx,.csv,.tsv,.txt" onChoose={onChoose}>
        {name ?? 'Add a file with data rows'}
      </FileButton>
      {name !== null && (
        <button type="button" className="button button-quiet button-small" onClick={() => onChoose(null)}>
          Take it away
        </button>
      )}
    </div>
  );
}

function HandSteps({ steps, count }: { readonly steps: TestImportPreview['handSteps']; readonly count: number }) {
  if (count === 0) return null;
  return (
    <details className="card px-4 py-2">
      <summary>
        {countOf(count, 'sentence')} {count === 1 ? 'is' : 'are'} not understood and {count === 1 ? 'stays' : 'stay'} for people
      </summary>
      <ul className="mt-2 grid gap-1 text-[13px]">
        {steps.map(({ test, text }, index) => (
          <li key={index}>
            {text} <span className="text-soft">{test}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function describe(preview: TestImportPreview | null): string {
  if (!preview) return 'sentences become steps; what is not understood stays for people';
  if (preview.isStored) return `${preview.file} is taken in`;
  const { counts, sentences, byHand } = preview;
  const understood = sentences === 0 ? '' : ` · ${sentences - byHand} of ${countOf(sentences, 'sentence')} understood`;
  if (preview.problems.length > 0)
    return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored${understood}`;
  return `${counts.new} new, ${counts.changed} changed, ${counts.same} the same${understood}`;
}
