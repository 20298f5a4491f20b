import type { MapImportOptions, MapImportPreview } from '@kindred-baton/contracts/imports/import';
import type { Hierarchy, MapMapping } from '@kindred-baton/core/imports/map-table';
import { HIERARCHIES, HIERARCHY_LABELS, MAP_COLUMNS } from '@kindred-baton/core/imports/map-table';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { NodeField } from '../map/node-field.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ColumnsCard } from './columns-card.tsx';
import { DifferenceTree } from './difference-tree.tsx';
import { ImportFrame } from './import-frame.tsx';
import { useImport } from './use-import.ts';

type Choice = Pick<MapImportOptions, 'sheet' | 'mapping' | 'addsNames' | 'missing'> & { below: string | null; leftOut: string[] };

const FIRST: Choice = { below: null, addsNames: false, leftOut: [], missing: 'keep' };

/** The business’s own process list, compared with the map: what is new, changed, moved, missing; chosen branch by branch. */
export function MapImport() {
  const { api, base } = useProgramme();
  const scope = useAddress().get('scope');
  const work = useImport<MapImportPreview>(`${api}/map/import`);
  const [choice, setChoice] = useState<Choice>(FIRST);
  const { preview, file } = work;
  /** What changes how the file is read is looked at again; what only chooses is not. */
  const lookAgain = (change: Partial<Choice>) => {
    const next = { ...choice, leftOut: [], ...change };
    setChoice(next);
    if (file) work.look(file, next);
  };
  const taken = preview ? countTaken(preview, choice) : 0;
  return (
    <ImportFrame
      work={{
        ...work,
        look: (chosen) => {
          setChoice(FIRST);
          work.look(chosen, FIRST);
        },
      }}
      title="Import a process list"
      about={describe(preview, taken)}
      says="XLSX, CSV, BPMN 2.0 or our own JSON, up to 50 MB."
      accept=".xlsx,.csv,.tsv,.txt,.bpmn,.xml,.json"
      isNothing={taken === 0}
      options={choice}
      done={{ label: 'See it on the map', href: `${base}/map${scope === null ? '' : `?scope=${scope}`}` }}
    >
      {preview && !preview.isStored && (
        <>
          {preview.columns && preview.mapping && <MappingCard columns={preview.columns} mapping={preview.mapping} onChange={lookAgain} />}
          <div className="card flex flex-wrap items-end gap-x-5 gap-y-2 px-4 py-3">
            <BelowField below={choice.below} onChange={(below) => lookAgain({ below })} />
            {preview.counts.missing > 0 && (
              <label className="text-[13px]">
                {`${countOf(preview.counts.missing, 'node')} of the map ${preview.counts.missing === 1 ? 'is' : 'are'} not in the file`}
                <select
                  className="field mt-0.5"
                  value={choice.missing}
                  onChange={(event) => setChoice({ ...choice, missing: event.target.value as 'keep' | 'retire' | 'remove' })}
                >
                  <option value="keep">keep them</option>
                  <option value="retire">retire them</option>
                  <option value="remove">remove them</option>
                </select>
              </label>
            )}
            {preview.newTeams.length + preview.newApplications.length > 0 && (
              <label className="flex min-h-[34px] items-center gap-2 text-[13px]">
                <input
                  type="checkbox"
                  checked={choice.addsNames ?? false}
                  onChange={(event) => lookAgain({ addsNames: event.target.checked })}
                />
                {describeNames(preview)}
              </label>
            )}
          </div>
          <DifferenceTree
            differences={preview.differences}
            more={preview.more}
            leftOut={choice.leftOut}
            onLeaveOut={(leftOut) => setChoice({ ...choice, leftOut: [...leftOut] })}
          />
        </>
      )}
    </ImportFrame>
  );
}

function describeNames({ newTeams, newApplications }: MapImportPreview): string {
  const parts = [
    ...(newTeams.length > 0 ? [`the ${newTeams.length === 1 ? 'team' : 'teams'} ${newTeams.slice(0, 5).join(', ')}`] : []),
    ...(newApplications.length > 0
      ? [`the ${newApplications.length === 1 ? 'application' : 'applications'} ${newApplications.slice(0, 5).join(', ')}`]
      : []),
  ];
  return `Add ${parts.join(' and ')} to the programme`;
}

/** How many differences would be taken in, by what is chosen. */
function countTaken({ differences, counts, more }: MapImportPreview, { leftOut, missing }: Choice): number {
  const out = new Set(leftOut);
  const shown = differences.filter(({ code, parent, kind }) => {
    if (out.has(code) || (parent !== null && out.has(parent))) {
      out.add(code);
      return false;
    }
    return kind !== 'same' && (kind !== 'missing' || missing !== 'keep');
  });
  return shown.length + (counts.new + counts.changed + counts.moved > 0 ? more : 0);
}

function describe(preview: MapImportPreview | null, taken: number): string {
  if (!preview) return 'the business’s own list becomes the map';
  if (preview.isStored) return `${preview.file} is taken in`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored`;
  const { counts } = preview;
  const parts = (['new', 'changed', 'moved', 'missing', 'same'] as const).flatMap((kind) =>
    counts[kind] > 0 ? [`${counts[kind]} ${kind}`] : [],
  );
  return `${parts.join(', ')} · ${taken === 0 ? 'nothing to take in' : `${countOf(taken, 'change')} to take in`}`;
}

interface MappingCardProps {
  readonly columns: NonNullable<MapImportPreview['columns']>;
  readonly mapping: NonNullable<MapImportPreview['mapping']>;
  readonly onChange: (change: Partial<Choice>) => void;
}

function MappingCard({ columns, mapping, onChange }: MappingCardProps) {
  const set = (next: Partial<MapMapping>) => {
    const { hierarchy, columns: map, levels } = { ...mapping, ...next };
    onChange({ sheet: columns.sheet, mapping: { hierarchy, columns: map, levels: [...levels] } });
  };
  const isByLevel = mapping.hierarchy === 'levels';
  const fields = MAP_COLUMNS.filter(
    ({ field }) => !(isByLevel && field === 'name') && (mapping.hierarchy === 'parent' || field !== 'parent'),
  );
  const onHierarchy = (hierarchy: Hierarchy) =>
    set({
      hierarchy,
      levels:
        hierarchy === 'levels' && mapping.levels.length === 0 ? columns.headings.map((_, column) => column).slice(0, 3) : mapping.levels,
    });
  return (
    <ColumnsCard
      columns={columns}
      fields={[...fields].sort((a, b) => ORDER.indexOf(a.field) - ORDER.indexOf(b.field))}
      taken={mapping.columns}
      onTake={(field, column) => set({ columns: { ...mapping.columns, [field]: column } })}
      onSheet={(sheet) => onChange({ sheet, mapping: undefined })}
    >
      <label className="text-[13px]">
        The hierarchy is in
        <select className="field mt-0.5" value={mapping.hierarchy} onChange={(event) => onHierarchy(event.target.value as Hierarchy)}>
          {HIERARCHIES.map((hierarchy) => (
            <option key={hierarchy} value={hierarchy}>
              {HIERARCHY_LABELS[hierarchy]}
            </option>
          ))}
        </select>
      </label>
      {isByLevel && (
        <fieldset className="flex flex-wrap gap-3 text-[13px]">
          <legend>Columns that are levels</legend>
          {columns.headings.map((heading, column) => (
            <label key={column} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={mapping.levels.includes(column)}
                onChange={(event) =>
                  set({
                    levels: event.target.checked
                      ? [...mapping.levels, column].sort((a, b) => a - b)
                      : mapping.levels.filter((each) => each !== column),
                  })
                }
              />
              {heading || `Column ${column + 1}`}
            </label>
          ))}
        </fieldset>
      )}
    </ColumnsCard>
  );
}

const ORDER = ['code', 'name', 'parent', 'team', 'application', 'owner', 'critical', 'retired', 'description'];

function BelowField({ below, onChange }: { readonly below: string | null; readonly onChange: (below: string | null) => void }) {
  return (
    <div className="-mb-3">
      <NodeField label="Goes below" name="below" none="the top of the map" value={below} onChange={onChange} />
    </div>
  );
}
