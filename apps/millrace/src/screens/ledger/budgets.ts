import { printCents } from '../../data/charges.ts';
import type { Screen } from '../../kit/screen.ts';
import { takeInHand } from '../../kit/screen.ts';

const BUDGET_CENTS = 10_000;

export const BUDGETS_SCREEN: Screen = {
  ...{ application: 'Ledger', name: 'Budgets', look: 'newer' },
  draw: async ({ records, record, mode }) => {
    const own = record === '' ? undefined : await records.find('requisition', record);
    const [material] = own ? await records.list('material', { name: own.material }) : [];
    const cents = own ? Math.round(Number(material?.price ?? 0) * 100) * Number(own.quantity) : 0;
    const isOver = cents > BUDGET_CENTS;
    return {
      fields: [{ label: 'Requisition number', kind: 'text', isLookedUp: true }],
      shown: own
        ? [
            ['Asked for', `${own.quantity} of ${own.material}`],
            ['Sum', printCents(cents)],
          ]
        : [],
      sentences: mode === 'checked' ? [isOver ? 'Over budget' : 'Within budget'] : [],
      buttons: [...(own ? ['Check budget'] : []), ...(mode === 'checked' && !isOver ? ['Approve'] : [])],
    };
  },
  change: { 'Requisition number': takeInHand('requisition', 'Requisition number') },
  press: { 'Check budget': (desk) => void (desk.mode = 'checked'), Approve: (desk) => void (desk.mode = '') },
};
