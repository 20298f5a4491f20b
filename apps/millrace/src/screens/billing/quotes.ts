import { BAND_NAMES, printCents, workOutConnection, workOutDeposit } from '../../data/charges.ts';
import { addDays, printDay, readDay, today } from '../../data/days.ts';
import type { Row } from '../../data/kinds.ts';
import type { Desk, Screen } from '../../kit/screen.ts';
import { beginNew, getInHand, listRecords, lookUp, refuse, say, takeInHand, toOptions } from '../../kit/screen.ts';

const HIGHEST_DISCOUNT = 50;
/** How long the deposit is worked out before it stands on the page. */
const DEPOSIT_MS = 900;

export const QUOTES_SCREEN: Screen = {
  ...{ application: 'Billing', name: 'Quotes', look: 'newer' },
  draw: async (desk) => {
    const { records, record, mode, values } = desk;
    const own = record === '' ? undefined : await records.find('quote', record);
    const survey = await findSurvey(desk, own);
    const application = survey && (await records.find('application', survey.application));
    const isForm = mode === 'new' || mode === 'repricing';
    const isReady = own !== undefined && Date.now() - Number(values['saved at'] ?? 0) > DEPOSIT_MS;
    return {
      fields: [
        { label: 'Quote number', kind: 'text', isLookedUp: true },
        ...(isForm || own
          ? ([
              { label: 'Survey number', kind: 'text', isLookedUp: true, isFixed: own !== undefined },
              { label: 'Customer band', kind: 'list', options: toOptions(...BAND_NAMES), isLookedUp: true },
              { label: 'Discount', kind: 'text', isLookedUp: true },
              { label: 'Valid until', kind: 'day' },
            ] as const)
          : []),
      ],
      shown: [
        ...(survey && application
          ? ([
              ['Customer', application.customer],
              ['Address', application.address],
              ['Pipe length', survey.length],
            ] as const)
          : []),
        ...(survey && (isForm || own) ? ([['Connection charge', printCents(priceOf(desk, survey))]] as const) : []),
        ...(own
          ? ([
              ['Deposit due', isReady ? own.deposit : 'working out …'],
              ['The quote is', own.state],
              ...(own.letter ? ([['Letter', own.letter]] as const) : []),
            ] as const)
          : []),
      ],
      isComing: own !== undefined && !isReady,
      buttons: ['New quote', ...(isForm ? ['Save quote'] : []), ...(own && !isForm ? ['Reprice', 'Send', 'Age by 91 days'] : [])],
      tables:
        isForm || own
          ? []
          : [
              await listRecords(desk, 'quote', 'The list of open quotes', {
                Quote: (row) => row.number,
                Survey: (row) => row.survey,
                Charge: (row) => row.charge,
                State: (row) => row.state,
              }),
            ],
    };
  },
  change: {
    'Quote number': takeInHand('quote', 'Quote number', async (desk) => {
      const own = await getInHand(desk, 'quote');
      if (!own) return;
      Object.assign(desk.values, { 'Survey number': own.survey, 'Customer band': own.band, Discount: own.discount });
      desk.values['Valid until'] = printDay(own.valid_until);
    }),
    'Survey number': async (desk) => void (await lookUp(desk, 'survey', 'Survey number')),
    'Customer band': () => undefined,
    Discount: (desk) => void checkDiscount(desk),
  },
  press: {
    'New quote': beginNew,
    'Save quote': saveQuote,
    Reprice: async (desk) => {
      if (!desk.user.mayApprove) return refuse(desk, 'Repricing is for the billing lead.');
      if (await getInHand(desk, 'quote')) desk.mode = 'repricing';
    },
    Send: async (desk) => {
      const own = await getInHand(desk, 'quote');
      if (!own) return;
      await desk.records.change('quote', own.number, { letter: `Sent today, ${printDay(today())}` });
      say(desk, `Sent today: ${own.number}`);
    },
    'Age by 91 days': async (desk) => {
      const own = await getInHand(desk, 'quote');
      if (!own) return;
      await desk.records.change('quote', own.number, { valid_until: addDays(today(), -1), state: 'lapsed' });
      say(desk, 'No deposit can be taken any more');
    },
  },
};

async function findSurvey({ records, values }: Desk, own: Row<'quote'> | undefined): Promise<Row<'survey'> | undefined> {
  const number = own?.survey ?? values['Survey number'] ?? '';
  return number === '' ? undefined : records.find('survey', number);
}

function priceOf({ values, faults }: Desk, survey: Row<'survey'>): number {
  const band = faults.has('band') ? 'C' : (values['Customer band'] ?? '');
  return workOutConnection(band, Number(survey.length), Number(values['Discount'] || 0));
}

function checkDiscount(desk: Desk): boolean {
  const typed = desk.values['Discount']?.trim() ?? '';
  const isNumber = typed === '' || /^\d+(\.\d+)?$/.test(typed);
  const isTooHigh = !desk.faults.has('discount') && Number(typed) > HIGHEST_DISCOUNT;
  if (!isNumber) refuse(desk, 'A discount is a number of percent.');
  else if (isTooHigh) refuse(desk, `A discount of more than ${HIGHEST_DISCOUNT} % is refused.`);
  return isNumber && !isTooHigh;
}

async function saveQuote(desk: Desk): Promise<void> {
  const { values, records, user } = desk;
  if (!user.mayPrice) return refuse(desk, `${user.name}s may not set a price.`);
  const own = desk.mode === 'repricing' ? await getInHand(desk, 'quote') : undefined;
  const survey = await findSurvey(desk, own);
  if (!survey) return refuse(desk, 'Survey number is missing.');
  if (!values['Customer band']) return refuse(desk, 'Pick a customer band.');
  if (!checkDiscount(desk)) return;
  const validUntil = values['Valid until'] ? readDay(values['Valid until']) : addDays(today(), 90);
  if (!validUntil || validUntil > addDays(today(), 90)) return refuse(desk, 'A quote is valid for 90 days at most.');
  const charge = priceOf(desk, survey);
  const [paid] = own ? await records.list('receipt', { quote: own.number, state: 'taken' }) : [];
  if (paid && charge < Math.round(Number(paid.amount) * 100) && !desk.faults.has('discount-deposit'))
    return refuse(desk, `The charge may not fall below the deposit of ${paid.amount} that was paid.`);
  const priced = {
    ...{ survey: survey.number, application: survey.application, band: values['Customer band'], length: survey.length },
    ...{ discount: Number(values['Discount'] || 0), charge: charge / 100, deposit: workOutDeposit(charge) / 100, valid_until: validUntil },
  };
  if (own) await records.change('quote', own.number, { ...priced, state: 'repriced' });
  const number = own?.number ?? (await records.create('quote', { ...priced, state: 'open' })).number;
  Object.assign(desk, { record: number, mode: '' });
  Object.assign(values, { 'Quote number': number, 'Valid until': printDay(validUntil), 'saved at': String(Date.now()) });
  say(desk, own ? 'The quote is repriced' : 'Quote saved');
}
