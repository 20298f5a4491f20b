import { useMemo } from 'react';
import { useAddress } from './address-context.tsx';
import { useOutline } from './use-outline.ts';

/** Whether a node lies in the branch that the strip scopes to; everything does without a scope. */
export function useInScope(): (code: string) => boolean {
  const scope = useAddress().get('scope');
  const nodes = useOutline({ enabled: scope !== null });
  return useMemo(() => {
    if (scope === null || !nodes) return () => true;
    const inside = new Set<string>();
    const places = new Set<number>();
    nodes.forEach((node, place) => {
      if (node.code !== scope && !places.has(node.parent)) return;
      places.add(place);
      inside.add(node.code);
    });
    return (code) => inside.has(code);
  }, [nodes, scope]);
}
