import { getColumnLabel, GROUP_COLUMNS, TURN_COLUMNS, USUAL_COLUMNS } from '@kindred-baton/core/turns/turn-columns';
import { Choose } from '../../ui/menus/choose.tsx';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useAddress } from '../frame/address-context.tsx';
import type { ListQuery } from './list-query.ts';

const NO_GROUP = 'none';

/** What turns stand under, and which columns are shown. */
export function ListControls({ query: { group, columns } }: { readonly query: ListQuery }) {
  const { set } = useAddress();
  const toggle = (key: string) => {
    const next = TURN_COLUMNS.filter((column) => (column === key) !== columns.includes(column));
    const isUsual = next.length === 0 || next.join() === USUAL_COLUMNS.join();
    set({ columns: isUsual ? null : next.join(',') });
  };
  return (
    <>
      <Choose
        label="Group"
        chosen={group ?? NO_GROUP}
        choices={[
          { key: NO_GROUP, name: 'not' },
          ...GROUP_COLUMNS.map((key) => ({ key, name: `by ${getColumnLabel(key).toLowerCase()}` })),
        ]}
        onChoose={(key) => set({ group: key === NO_GROUP ? null : key, page: null })}
      />
      <MenuButton
        label="Columns"
        onChoose={toggle}
        choices={TURN_COLUMNS.map((key) => ({ key, name: `${columns.includes(key) ? 'Without' : 'With'} “${getColumnLabel(key)}”` }))}
      />
    </>
  );
}
