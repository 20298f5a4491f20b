import { useRead } from '../../client/use-read.ts';
import { useMemo } from 'react';
import { useAddress } from './address-context.tsx';

/** Whether a node lies in the branch that the strip scopes to; everything does without a scope. */
export function useInScope(): (code: string) => boolean {
  const scope = useAddress().get('scope');
  const { data } = useRead('getStrip', {});
  return useMemo(() => {
    if (scope === null || !data) return () => true;
    const inside = new Set<string>();
    const places = new Set<number>();
    data.nodes.forEach((node, place) => {
      if (node.code !== scope && !places.has(node.parent)) return;
      places.add(place);
      inside.add(node.code);
    });
    return (code) => inside.has(code);
  }, [data, scope]);
}
