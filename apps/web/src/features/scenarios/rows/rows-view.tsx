import type { Field } from '@kindred-baton/core/values/field';
import Plus from 'lucide-react/icons/plus';
import { useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { ClassesPart } from './classes-part.tsx';
import { ColumnDialog } from './column-dialog.tsx';
import { RowsGrid } from './rows-grid.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

/** The scenario's data rows, of each of which a run is made, and the classes that rows can be made from. */
export function RowsView({ editor }: { readonly editor: ScenarioEditor }) {
  const { columns, rows } = editor.scenario.document;
  const [edited, setEdited] = useState<Field | 'new' | null>(null);
  const add = () => {
    const values = { ...(rows.at(-1)?.values ?? {}) };
    void editor.run([{ kind: 'add row', row: { id: crypto.randomUUID(), name: `Row ${rows.length + 1}`, values }, before: null }]);
  };
  return (
    <div className="grid gap-4">
      <section aria-label="Data rows" className="card min-w-0">
        <div className="flex flex-wrap items-center gap-2 px-4 py-2.5">
          <h2 className="mr-auto">
            {countOf(rows.length, 'data row')} <span className="font-normal text-soft">one run is made of each</span>
          </h2>
          {editor.canEdit && (
            <>
              <button type="button" className="button button-small" onClick={() => setEdited('new')}>
                <Plus size={15} aria-hidden /> Add a column
              </button>
              <button type="button" className="button button-small" onClick={add}>
                <Plus size={15} aria-hidden /> Add a row
              </button>
            </>
          )}
        </div>
        {columns.length === 0 && rows.length === 0 ? (
          <EmptyView title="No data rows yet">
            A column is a value that no leg gives, such as the customer’s band; a row is one set of them.
          </EmptyView>
        ) : (
          <RowsGrid editor={editor} onColumn={setEdited} />
        )}
      </section>
      {editor.canEdit && columns.length > 0 && <ClassesPart editor={editor} />}
      <ColumnDialog editor={editor} column={edited} onClose={() => setEdited(null)} />
    </div>
  );
}
