import type { ScenarioImportPreview } from '@kindred-baton/contracts/imports/import';
import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { NodeField } from '../map/node-field.tsx';
import { ComparisonTable } from '../scenarios/reuse/comparison-table.tsx';
import { ImportFrame } from './import-frame.tsx';
import { useImport } from './use-import.ts';

interface Target {
  readonly code?: string;
  readonly name?: string;
  readonly node?: string;
}

/** A scenario from a process drawing or a workbook: a new sketch, or compared with the one that has its code. */
export function ScenarioImport() {
  const { api, base } = useProgramme();
  const work = useImport<ScenarioImportPreview>(`${api}/scenarios/import`);
  const [target, setTarget] = useState<Target>({});
  const { preview, file } = work;
  const lookAgain = (change: Target) => {
    const next = { ...target, ...change };
    setTarget(next);
    if (file) work.look(file, next);
  };
  return (
    <ImportFrame
      work={{ ...work, look: (chosen) => (setTarget({}), work.look(chosen)) }}
      title="Import a scenario"
      about={describe(preview)}
      says="BPMN 2.0 with pools, lanes and tasks, or a workbook as a scenario is exported to, up to 50 MB."
      accept=".bpmn,.xml,.xlsx"
      isNothing={preview !== null && !preview.isNew && preview.edits === 0}
      options={target}
      done={{ label: 'See the scenario', href: `${base}/scenarios/${preview?.target.code ?? ''}` }}
    >
      {preview && !preview.isStored && (
        <>
          {preview.isNew && preview.comparison.legs.length > 0 && <TargetCard target={preview.target} onChange={lookAgain} />}
          {preview.comparison.legs.length > 0 && <ComparisonTable comparison={preview.comparison} />}
        </>
      )}
    </ImportFrame>
  );
}

function TargetCard({
  target,
  onChange,
}: {
  readonly target: ScenarioImportPreview['target'];
  readonly onChange: (change: Target) => void;
}) {
  return (
    <section className="card px-4 pt-3" aria-label="What it becomes">
      <h2 className="mb-2">It becomes a new sketch</h2>
      <div className="grid gap-x-4 sm:grid-cols-3">
        <TextField
          key={`name ${target.name}`}
          label="Name"
          defaultValue={target.name}
          onBlur={(event) => onChange({ name: event.target.value })}
        />
        <TextField
          key={`code ${target.code}`}
          label="Code"
          defaultValue={target.code}
          onBlur={(event) => onChange({ code: event.target.value })}
        />
        <NodeField label="Belongs to" name="node" none="Choose …" value={target.node} onChange={(node) => onChange({ node: node ?? '' })} />
      </div>
    </section>
  );
}

function describe(preview: ScenarioImportPreview | null): string {
  if (!preview) return 'a process drawing becomes legs in lanes; what it hands over becomes wiring';
  if (preview.isStored) return `${preview.file} is taken in`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to settle; nothing is stored`;
  const legs = preview.comparison.legs.length;
  if (preview.isNew) return `${countOf(legs, 'leg')} for a new sketch`;
  return preview.edits === 0 ? 'the scenario says what the file says' : `${countOf(preview.edits, 'edit')} to ${preview.target.name}`;
}
