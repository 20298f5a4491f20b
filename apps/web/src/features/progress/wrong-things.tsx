import type { WrongSteps, WrongThingView } from '@kindred-baton/contracts/progress/wrong-steps';
import type { Ranking } from '@kindred-baton/core/progress/rank-things';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ShareBoundsMark } from './share-bounds.tsx';
import { DefectsCell, TriesCell } from './tries-cells.tsx';

type Grouping = Exclude<Ranking, 'step'>;
const HEADS: Readonly<Record<Grouping, string>> = { target: 'Field or button', screen: 'Screen' };
const NOTES: Readonly<Record<Grouping, string>> = {
  target: 'The same name in the same application is one, whichever tests name it.',
  screen: 'A screen is where the steps last went to, by their words; what a press opens from there counts under it too.',
};

interface ThingTableProps {
  readonly view: WrongSteps;
  readonly each: Grouping;
}

/** Fields, buttons or screens, over all steps that name them; each opens those of its steps at which something went wrong. */
export function ThingTable({ view, each }: ThingTableProps) {
  const most = Math.max(...view.things.map(({ tries }) => tries));
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col" aria-label="Rank" />
            <th scope="col">{HEADS[each]}</th>
            <th scope="col">Errors of tries</th>
            <th scope="col">Goes wrong, 0 to 100 %</th>
            <th scope="col">Most of them at</th>
            <th scope="col">Defect</th>
            <th scope="col" className="text-right!">
              Waits behind it
            </th>
          </tr>
        </thead>
        <tbody>
          {view.things.map((thing, place) => (
            <ThingLine key={thing.key} thing={thing} rank={view.rows.from + place + 1} most={most} each={each} />
          ))}
        </tbody>
      </table>
      <p className="border-t border-line-2 px-2 py-2.5 text-[13px] text-soft">
        Ranked by what goes wrong <strong>at least</strong>, with 95 % confidence, over all tries of all steps. {NOTES[each]}
      </p>
    </div>
  );
}

interface ThingLineProps {
  readonly thing: WrongThingView;
  readonly rank: number;
  readonly most: number;
  readonly each: Grouping;
}

function ThingLine({ thing, rank, most, each }: ThingLineProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const errors = thing.failed + thing.blocked;
  const open = () => address.set({ each: null, [each]: thing.key, page: null, step: null });
  return (
    <tr className="hover:bg-band">
      <td className="text-right font-mono text-soft">{rank}</td>
      <th scope="row" className="min-w-[190px] border-b-line-2! font-normal! whitespace-normal! text-ink!">
        <button type="button" className="min-h-[26px] text-left font-semibold break-words hover:underline" onClick={open}>
          {thing.name}
        </button>
        <span className="block text-[13px] text-soft">
          {thing.application !== '' && `${thing.application} · `}
          {countOf(thing.steps, 'step')} of {countOf(thing.tests, 'test')}
        </span>
      </th>
      <TriesCell of={thing} most={most} onOpen={open} />
      <td>
        <ShareBoundsMark low={thing.low} share={errors / thing.tries} high={thing.high} />
      </td>
      <td className="text-[13px]">
        <a className="hover:underline" href={`${base}/tests/${encodeURIComponent(thing.worst.test.code)}`} title={thing.worst.test.name}>
          <span className="font-mono">{thing.worst.test.code}</span>, step {thing.worst.index + 1}
        </a>
        {thing.wrongSteps > 1 && <span className="block text-soft">and {countOf(thing.wrongSteps - 1, 'step')} more</span>}
      </td>
      <DefectsCell defects={thing.defects} />
      <td className="text-right font-mono whitespace-nowrap" title={countOf(thing.waiting.turns, 'turn')}>
        {thing.waiting.turns === 0 ? <span className="text-soft">–</span> : formatMinutes(thing.waiting.minutes)}
      </td>
    </tr>
  );
}
