import type { ReactNode } from 'react';

interface FramedTableProps {
  readonly heads: readonly string[];
  /** Rows. */
  readonly children: ReactNode;
  /** Inside a card that is there already. */
  readonly isBare?: boolean;
}

/** A table in a frame of its own, in which it scrolls sideways where it must. */
export function FramedTable({ heads, children, isBare = false }: FramedTableProps) {
  return (
    <div className={`overflow-x-auto px-2 ${isBare ? '' : 'card'}`}>
      <table className="grid-table">
        <TableHead heads={heads} />
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

function TableHead({ heads }: Pick<FramedTableProps, 'heads'>) {
  return (
    <thead>
      <tr>
        {heads.map((head) => (
          <th key={head} scope="col">
            {head}
          </th>
        ))}
      </tr>
    </thead>
  );
}
