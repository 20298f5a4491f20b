import { useMemo } from 'react';
import { useRead } from '../../client/use-read.ts';

export interface OutlineEntry {
  readonly code: string;
  readonly name: string;
  /** The place of what it lies in, −1 at the top. */
  readonly parent: number;
  readonly depth: number;
}

/** Every node of the map, in map order; undefined until they are there. */
export function useOutline({ enabled = true }: { readonly enabled?: boolean } = {}): readonly OutlineEntry[] | undefined {
  const { data } = useRead('getOutline', {}, { enabled });
  return useMemo(() => {
    const depths: number[] = [];
    return data?.codes.map((code, at) => {
      const parent = data.parents[at] ?? -1;
      depths.push(parent < 0 ? 0 : (depths[parent] ?? 0) + 1);
      return { code, name: data.names[at] ?? '', parent, depth: depths[at] ?? 0 };
    });
  }, [data]);
}
