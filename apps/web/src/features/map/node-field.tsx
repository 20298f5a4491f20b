import { SelectField } from '../../ui/field.tsx';
import { useAddress } from '../frame/address-context.tsx';
import type { OutlineEntry } from '../frame/use-outline.ts';
import { useOutline } from '../frame/use-outline.ts';

interface NodeFieldProps {
  readonly label: string;
  readonly name: string;
  readonly problem?: string | undefined;
  /** Branches that are not offered. */
  readonly without?: readonly string[];
  /** What stands for no node; without it there has to be one. */
  readonly none?: string;
  /** Where the chosen code is held outside the form. */
  readonly value?: string | null;
  readonly onChange?: (code: string | null) => void;
}

/** One node of the map, proposed from the strip's scope. */
export function NodeField({ label, name, problem, without = [], none, value, onChange }: NodeFieldProps) {
  const scope = useAddress().get('scope');
  const all = useOutline();
  if (!all) return null;
  const nodes = leaveOut(all, without);
  return (
    <SelectField
      label={label}
      name={name}
      problem={problem}
      {...(onChange
        ? { value: value ?? '', onChange: (event) => onChange(event.target.value || null) }
        : { defaultValue: nodes.some(({ code }) => code === scope) ? (scope ?? '') : none === undefined ? nodes[0]?.code : '' })}
    >
      {none !== undefined && <option value="">{none}</option>}
      {nodes.map((node) => (
        <option key={node.code} value={node.code}>
          {'\u00a0\u00a0'.repeat(node.depth)}
          {node.code} {node.name}
        </option>
      ))}
    </SelectField>
  );
}

function leaveOut(nodes: readonly OutlineEntry[], branches: readonly string[]): readonly OutlineEntry[] {
  const out = new Set<number>();
  return nodes.filter((node, index) => {
    if (branches.includes(node.code) || out.has(node.parent)) out.add(index);
    return !out.has(index);
  });
}
