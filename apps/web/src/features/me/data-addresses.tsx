import type { DataAddressView } from '@kindred-baton/contracts/extracts/extract';
import type { RowKind } from '@kindred-baton/core/extracts/row-kinds';
import { getRowKindLabel, listColumns, ROW_KIND_NAMES } from '@kindred-baton/core/extracts/row-kinds';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextField } from '../../ui/field.tsx';
import { formatMoment, formatWhole } from '../../ui/format.ts';
import { useCopy } from '../../ui/use-copy.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** Addresses at which spreadsheets and analysis tools read rows without signing in: made, shown once, withdrawn. */
export function DataAddresses() {
  const [isAdding, setIsAdding] = useState(false);
  const { data, error } = useRead('listAddresses', {});
  const { act } = useChanges();
  return (
    <>
      <p className="mb-3">
        A spreadsheet or an analysis tool can read turns, attempts, steps and defects by an address of yours. It sees what you may see,
        changes nothing, and whoever has it can read it.
      </p>
      {error && <p role="alert">{error.message}</p>}
      {data && data.length > 0 && (
        <ul className="mb-3">
          {data.map((address) => (
            <AddressLine
              key={address.id}
              address={address}
              onWithdraw={() => void act('withdrawAddress', { params: { address: address.id } })}
            />
          ))}
        </ul>
      )}
      <button type="button" className="button" onClick={() => setIsAdding(true)}>
        Make an address for data
      </button>
      {isAdding && <AddAddress onClose={() => setIsAdding(false)} />}
    </>
  );
}

function AddressLine({ address, onWithdraw }: { readonly address: DataAddressView; readonly onWithdraw: () => void }) {
  const { timeZone, nowMs } = useProgramme();
  const { name, usedAt, expiresAt } = address;
  return (
    <li className="flex items-center justify-between gap-3 border-b border-line-2 py-1.5">
      <span className="min-w-0">
        <b className="block break-words">{name}</b>
        <span className="text-[13px] text-soft" suppressHydrationWarning>
          {usedAt === null ? 'never read yet' : `last read ${formatMoment(usedAt, timeZone, nowMs)}`} ·{' '}
          {expiresAt === null ? 'until you withdraw it' : `until ${formatWhole(expiresAt, timeZone)}`}
        </span>
      </span>
      <button type="button" className="button button-small" onClick={onWithdraw} aria-label={`Withdraw ${name}`}>
        Withdraw
      </button>
    </li>
  );
}

const LASTING = [
  { days: '90', word: '90 days' },
  { days: '365', word: 'A year' },
  { days: '', word: 'Until I withdraw it' },
];

function AddAddress({ onClose }: { readonly onClose: () => void }) {
  const { change } = useChanges();
  const [token, setToken] = useState<string | null>(null);
  const form = useForm(async ({ name = '', days }) => {
    const added = await change('addAddress', { input: { name, daysValid: days ? Number(days) : null } });
    setToken(added.token);
  });
  if (token !== null) return <TokenDialog token={token} onClose={onClose} />;
  return (
    <DialogBox title="An address for data" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="What is it for?"
          name="name"
          required
          maxLength={200}
          hint="Such as: steering sheet of the rollout office"
          problem={form.problemOf('name')}
        />
        <SelectField label="It works for" name="days" problem={form.problemOf('daysValid')}>
          {LASTING.map(({ days, word }) => (
            <option key={days} value={days}>
              {word}
            </option>
          ))}
        </SelectField>
        <FormFoot form={form} label="Make it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}

function TokenDialog({ token, onClose }: { readonly token: string; readonly onClose: () => void }) {
  const { api } = useProgramme();
  const copyText = useCopy();
  const [kind, setKind] = useState<RowKind>('turns');
  const address = `${window.location.origin}${api}/extracts/${kind}?format=csv&token=${token}`;
  return (
    <DialogBox title="Your address for data" isOpen onClose={onClose} width={640}>
      <p className="mb-3">
        It is shown <b>now and never again</b>. One token reads all four kinds of rows.
      </p>
      <SelectField label="Rows of" name="kind" value={kind} onChange={({ target }) => setKind(target.value as RowKind)}>
        {ROW_KIND_NAMES.map((each) => (
          <option key={each} value={each}>
            {getRowKindLabel(each)}
          </option>
        ))}
      </SelectField>
      <input
        className="field font-mono text-[13px]!"
        readOnly
        aria-label="Address for data"
        value={address}
        onFocus={(event) => event.target.select()}
      />
      <p className="mt-3 text-[13px] text-soft">
        Add <code>cycle=@open</code>, <code>team=Billing</code>, <code>since=2026-11-02</code> or any filter of a list of turns;{' '}
        <code>format=json</code> comes in pages. Columns:{' '}
        {listColumns(kind)
          .map(({ name }) => name)
          .join(', ')}
        .
      </p>
      <p className="mt-4 flex justify-end gap-2">
        <button type="button" className="button" onClick={() => void copyText(address)}>
          Copy
        </button>
        <button type="button" className="button button-primary" onClick={onClose}>
          I have it
        </button>
      </p>
    </DialogBox>
  );
}
