import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { Field } from '@kindred-baton/core/values/field';
import { guessFieldType, toNameKey } from '@kindred-baton/core/values/field';
import { useState } from 'react';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextField } from '../../../ui/field.tsx';
import { PanelPart } from '../../../ui/side-panel.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { NodeField } from '../../map/node-field.tsx';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';

interface OpenLegPartProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
}

/** An open leg: which test of the library fits, what it is to need and give, or a draft that is made from it. */
export function OpenLegPart({ editor, leg }: OpenLegPartProps) {
  const [isDrafting, setIsDrafting] = useState(false);
  const { needs, gives } = leg.document;
  const { data } = useRead('proposeForLegs', { params: editor.params }, { of: [leg.title, leg.team?.id, needs, gives] });
  const proposals = data?.legs.find((each) => each.leg === leg.id)?.proposals ?? [];
  const take = (test: string) => void editor.changeLeg(leg, { test, title: null });
  return (
    <PanelPart title="A test for it">
      <ul className="grid gap-2">
        {proposals.map(({ code, name, reasons }) => (
          <li key={code} className="text-[13px]">
            <div className="flex items-start justify-between gap-2">
              <span className="min-w-0">
                <b>{name}</b> <span className="font-mono text-soft">{code}</span>
              </span>
              {editor.canEdit && (
                <button type="button" className="button button-small flex-none" aria-label={`Take ${code}`} onClick={() => take(code)}>
                  Take
                </button>
              )}
            </div>
            <span className="text-soft">{reasons.join(' · ')}</span>
          </li>
        ))}
        {data && proposals.length === 0 && <li className="text-[13px] text-soft">No test of the library fits.</li>}
      </ul>
      {editor.canEdit && (
        <>
          <NamesField label="It is to need" fields={needs} onKeep={(next) => void editor.changeLeg(leg, { needs: next })} />
          <NamesField label="It is to give" fields={gives} onKeep={(next) => void editor.changeLeg(leg, { gives: next })} />
          <button type="button" className="button button-small mt-2" onClick={() => setIsDrafting(true)}>
            Make a draft test of it
          </button>
        </>
      )}
      <DraftDialog editor={editor} leg={leg} isOpen={isDrafting} onClose={() => setIsDrafting(false)} />
    </PanelPart>
  );
}

interface NamesFieldProps {
  readonly label: string;
  readonly fields: readonly Field[];
  readonly onKeep: (fields: Field[]) => void;
}

/** Values by their names, with commas; their types are guessed from the names. */
function NamesField({ label, fields, onKeep }: NamesFieldProps) {
  const text = fields.map(({ name }) => name).join(', ');
  const keep = (typed: string) => {
    const names = typed.split(',').flatMap((name) => (name.trim() === '' ? [] : [name.trim()]));
    const next = names.map(
      (name) => fields.find((field) => toNameKey(field.name) === toNameKey(name)) ?? { name, type: guessFieldType(name), required: true },
    );
    if (next.map(({ name }) => name).join(', ') !== text) onKeep(next);
  };
  return (
    <div className="mt-2 -mb-3">
      <TextField
        key={text}
        label={label}
        defaultValue={text}
        placeholder="Survey no., Pipe length"
        onBlur={(event) => keep(event.target.value)}
      />
    </div>
  );
}

interface DraftDialogProps extends OpenLegPartProps {
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

function DraftDialog({ editor, leg, isOpen, onClose }: DraftDialogProps) {
  const { change } = useChanges();
  const form = useForm(async (values) => {
    await change('draftForLeg', { params: editor.params, input: fromForm({ ...values, leg: leg.id }) });
    onClose();
  });
  return (
    <DialogBox title={`A draft test: ${leg.title}`} isOpen={isOpen} onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <p className="mb-3 text-[13px] text-soft">It begins with this leg’s words, needed and given values; the leg links to it at once.</p>
        <TextField label="Code" name="code" required maxLength={40} problem={form.problemOf('code')} />
        <NodeField label="At which activity" name="node" problem={form.problemOf('node')} />
        <FormFoot form={form} label="Make the draft" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
