import type { Given } from '../../client/call.ts';
import { call, fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { RequirementItem } from '@kindred-baton/contracts/requirements/requirement';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import { readLinks } from '@kindred-baton/core/requirements/read-links';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextArea, TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { useOutline } from '../frame/use-outline.ts';

interface RequirementDialogProps {
  readonly requirement: RequirementItem | null;
  /** What is proposed for a new one. */
  readonly nextCode: string;
  readonly onClose: () => void;
}

/** A requirement with its links, new or changed. */
export function RequirementDialog({ requirement, nextCode, onClose }: RequirementDialogProps) {
  const address = useAddress();
  const { change, act } = useChanges();
  const { api } = useProgramme();
  const outline = useOutline();
  const form = useForm(async (values) => {
    const { nodes, tests: codes, ...rest } = values;
    const body = fromForm<Given<'addRequirement'>['input']>({
      ...rest,
      nodes: readLinks(nodes ?? '', outline ?? []),
      tests: (await call(api, 'readTestLinks', { input: { text: codes ?? '' } })).codes,
    });
    const { code } = await (requirement
      ? change('saveRequirement', { params: { code: requirement.code }, input: body })
      : change('addRequirement', { input: body }));
    address.set({ requirement: code }, { replace: true });
    onClose();
  });
  const remove = async () => {
    if (!requirement || !(await act('removeRequirement', { params: { code: requirement.code } }))) return;
    address.set({ requirement: null }, { replace: true });
    onClose();
  };
  const scope = address.get('scope');
  return (
    <DialogBox title={requirement ? `Edit ${requirement.code}` : 'New requirement'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="What must hold"
          name="title"
          required
          maxLength={500}
          defaultValue={requirement?.title}
          problem={form.problemOf('title')}
        />
        <div className="grid gap-x-3 sm:grid-cols-3">
          <TextField
            label="Code"
            name="code"
            required
            maxLength={40}
            defaultValue={requirement?.code ?? nextCode}
            problem={form.problemOf('code')}
          />
          <SelectField label="Kind" name="kind" defaultValue={requirement?.kind ?? 'functional'}>
            {REQUIREMENT_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </SelectField>
          <SelectField label="Priority" name="priority" defaultValue={requirement?.priority ?? 'medium'}>
            {PRIORITIES.map((priority) => (
              <option key={priority}>{priority}</option>
            ))}
          </SelectField>
        </div>
        <TextArea label="Description" name="description" rows={4} defaultValue={requirement?.description} />
        <TextField
          label="Processes"
          name="nodes"
          hint="Codes or names, with commas between"
          defaultValue={requirement?.nodes.map(({ code }) => code).join(', ') ?? scope ?? ''}
          problem={form.problemOf('nodes')}
        />
        <TextField
          label="Tests"
          name="tests"
          hint="Codes or names, with commas between"
          defaultValue={requirement?.tests.map(({ code }) => code).join(', ') ?? ''}
          problem={form.problemOf('tests')}
        />
        {requirement && (
          <button type="button" className="button button-small button-quiet mb-2 text-failed" onClick={() => void remove()}>
            Remove this requirement
          </button>
        )}
        <FormFoot form={form} label="Save" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
