import Columns2 from 'lucide-react/icons/columns-2';
import { Choose } from '../../ui/menus/choose.tsx';
import { Crumbs, PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { EditorProps } from './editor-props.ts';
import { ExportButton } from './library/export-button.tsx';

/** Which test this is, in which version, whether what was typed is safe, and what can be done with the whole. */
export function EditorTitle({ test, draft, dispatch, saving, canEdit, base }: EditorProps & { readonly base: string }) {
  const { can } = useProgramme();
  const address = useAddress();
  const [newest, second] = test.versions;
  return (
    <PageTitle
      crumbs={<Crumbs path={test.path} base={base} />}
      title={
        <>
          <span className="mr-2 font-mono font-normal text-soft">{test.code}</span>
          {canEdit ? <NameInput name={draft.name} onChange={(name) => dispatch({ kind: 'name', name })} /> : test.name}
        </>
      }
      about={canEdit && <SaveState draft={draft} saving={saving} />}
    >
      <Choose
        label="Version"
        chosen={String(test.version.number)}
        choices={test.versions.map(({ number, state }) => ({ key: String(number), name: `${number}, ${state}` }))}
        onChoose={(number) => (location.search = `?version=${number}`)}
      />
      {newest && second && (
        <button
          type="button"
          className="button"
          onClick={() => address.set({ compare: address.get('compare') === null ? `${second.number}-${newest.number}` : null })}
        >
          <Columns2 size={17} aria-hidden /> Compare
        </button>
      )}
      <ExportButton codes={() => [test.code]} />
      {canEdit && !saving.isDraft && (
        <button
          type="button"
          className="button button-primary"
          disabled={!draft.isChanged || saving.isBusy}
          onClick={() => void saving.save()}
        >
          Save as a new draft
        </button>
      )}
      {canEdit && saving.isDraft && draft.base.number > 1 && (
        <button type="button" className="button" disabled={draft.isChanged || saving.isBusy} onClick={() => void saving.discard()}>
          Drop the draft
        </button>
      )}
      {canEdit && saving.isDraft && can('agree tests') && (
        <button type="button" className="button button-primary" onClick={() => void saving.agree()}>
          Agree version {draft.base.number}
        </button>
      )}
    </PageTitle>
  );
}

/** Whether what was typed is safe. */
function SaveState({ draft, saving }: Pick<EditorProps, 'draft' | 'saving'>) {
  const text = saving.refusal ?? (!saving.isDraft ? '' : draft.isChanged || saving.isBusy ? 'Saving …' : 'Draft saved');
  return (
    <span role="status" className={saving.refusal === null ? '' : 'font-semibold text-failed'}>
      {text}
    </span>
  );
}

function NameInput({ name, onChange }: { readonly name: string; readonly onChange: (name: string) => void }) {
  return (
    <input
      aria-label="Name of the test"
      className="max-w-full rounded-control border border-transparent bg-transparent px-1 font-bold hover:border-line focus:border-soft"
      size={Math.max(18, Math.min(56, name.length))}
      maxLength={200}
      value={name}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
