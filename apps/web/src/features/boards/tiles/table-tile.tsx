import { useAddress } from '../../frame/address-context.tsx';
import { ProgressTable } from '../../progress/progress-table.tsx';
import { readTableQuery } from '../../progress/table-query.ts';
import type { TileProps } from './tile-props.ts';

export function TableTile({ answer }: TileProps<'table'>) {
  const { get } = useAddress();
  return (
    <div className="tile-inside">
      <ProgressTable view={answer} query={readTableQuery(get)} />
    </div>
  );
}
