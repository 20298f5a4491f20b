import type { StripView } from '@kindred-baton/contracts/programmes/programme';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { getJson } from '../../ui/request.ts';
import { useAddress } from './address-context.tsx';
import { useProgramme } from './programme-context.tsx';

/** Whether a node lies in the branch that the strip scopes to; everything does without a scope. */
export function useInScope(): (code: string) => boolean {
  const { api } = useProgramme();
  const scope = useAddress().get('scope');
  const { data } = useQuery({ queryKey: ['strip'], queryFn: () => getJson<StripView>(`${api}/strip`) });
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
