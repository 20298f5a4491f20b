import { SelectField } from '../../ui/field.tsx';

interface TimeZoneFieldProps {
  readonly chosen: string;
  readonly problem?: string | undefined;
}

/** A time zone of those that the browser knows; the one that is chosen is always among them. */
export function TimeZoneField({ chosen, problem }: TimeZoneFieldProps) {
  const zones = [...new Set([chosen, ...Intl.supportedValuesOf('timeZone')])].sort();
  return (
    <SelectField label="Time zone" name="timeZone" defaultValue={chosen} problem={problem} suppressHydrationWarning>
      {zones.map((zone) => (
        <option key={zone}>{zone}</option>
      ))}
    </SelectField>
  );
}
