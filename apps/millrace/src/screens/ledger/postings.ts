import { printCents } from '../../data/charges.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { refuse, say } from '../../kit/screen.ts';

interface Document {
  readonly says: string;
  readonly toAccount: string;
  readonly cents: number;
}

export const POSTINGS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Postings', look: 'older' },
  draw: async (desk) => {
    const document = await findDocument(desk);
    const { values, mode } = desk;
    return {
      fields: [
        { label: 'Document', kind: 'text', isLookedUp: true },
        ...(values['Posting number'] && mode === 'posted' ? ([{ label: 'Posting number', kind: 'text', isFixed: true }] as const) : []),
      ],
      shown: document
        ? [
            ['To account', document.toAccount],
            ['Sum', printCents(document.cents)],
          ]
        : [],
      sentences: document ? [document.says] : [],
      buttons: document ? ['Post'] : [],
    };
  },
  change: {
    Document: async (desk) => {
      desk.mode = '';
      if (!(await findDocument(desk))) refuse(desk, `There is no document ${desk.values['Document'] ?? ''}.`);
    },
  },
  press: {
    Post: async (desk) => {
      const document = await findDocument(desk);
      if (!document) return;
      const left = desk.faults.has('balance') ? 1 : 0;
      const made = await desk.records.create('posting', {
        ...{ document: desk.values['Document']?.trim() ?? '', to_account: document.toAccount, amount: (document.cents - left) / 100 },
      });
      desk.values['Posting number'] = made.number;
      desk.mode = 'posted';
      say(desk, left === 0 ? 'Posted; the accounts balance' : `Posted; a difference of ${printCents(left)} is left over`);
    },
  },
};

/** What can be posted: a damage charge, a bill by itself, a bill for its whole run. */
async function findDocument({ records, values }: Desk): Promise<Document | undefined> {
  const number = values['Document']?.trim() ?? '';
  const charge = number === '' ? undefined : await records.find('charge', number);
  if (charge) return { says: `A claim of ${charge.amount}`, toAccount: 'Damage', cents: Math.round(Number(charge.amount) * 100) };
  const bill = number === '' ? undefined : await records.find('bill', number);
  if (!bill) return undefined;
  const run = bill.run ? await records.find('run', bill.run) : undefined;
  if (run) return { says: `The sum of the run is ${run.total}`, toAccount: 'Water income', cents: Math.round(Number(run.total) * 100) };
  return { says: 'One posting to connection income', toAccount: 'Connection income', cents: Math.round(Number(bill.total) * 100) };
}
