import { DEFECT_KINDS, SEVERITIES } from '@kindred-baton/core/defects/defect';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { SelectField } from '../../ui/field.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** What kind of defect it is, what it does to the business, and how soon somebody should see to it. */
export function DefectPicks() {
  const { nameOf } = useProgramme();
  return (
    <div className="grid grid-cols-3 gap-2">
      <Pick label="Kind" name="kind" values={DEFECT_KINDS} initial="function" />
      <Pick label="Severity" name="severity" values={SEVERITIES} nameOf={nameOf} initial="slows the business" />
      <Pick label="Priority" name="priority" values={PRIORITIES} initial="medium" />
    </div>
  );
}

interface PickProps<Value extends string> {
  readonly label: string;
  readonly name: string;
  readonly values: readonly Value[];
  readonly nameOf?: (value: Value) => string;
  readonly initial: string;
}

function Pick<Value extends string>({ label, name, values, initial, nameOf = String }: PickProps<Value>) {
  return (
    <SelectField label={label} name={name} defaultValue={initial}>
      {values.map((value) => (
        <option key={value} value={value}>
          {nameOf(value)}
        </option>
      ))}
    </SelectField>
  );
}
