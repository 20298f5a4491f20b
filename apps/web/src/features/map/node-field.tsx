import type { StripView } from '@kindred-baton/contracts/programmes/programme';
import { useQuery } from '@tanstack/react-query';
import { SelectField } from '../../ui/field.tsx';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

interface NodeFieldProps {
  readonly label: string;
  readonly name: string;
  readonly problem?: string | undefined;
}

/** One node of the map, proposed from the strip's scope. */
export function NodeField({ label, name, problem }: NodeFieldProps) {
  const { api } = useProgramme();
  const scope = useAddress().get('scope');
  const { data } = useQuery({ queryKey: ['strip'], queryFn: () => getJson<StripView>(`${api}/strip`) });
  if (!data) return null;
  return (
    <SelectField label={label} name={name} defaultValue={scope ?? data.nodes[0]?.code} problem={problem}>
      {data.nodes.map((node) => (
        <option key={node.code} value={node.code}>
          {'\u00a0\u00a0'.repeat(node.depth)}
          {node.code} {node.name}
        </option>
      ))}
    </SelectField>
  );
}
