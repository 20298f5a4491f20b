import { BatonBar } from '../../../ui/baton-mark.tsx';
import { listNames } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { readTableQuery } from '../../progress/table-query.ts';
import { WhereHeadline } from '../../progress/where-headline.tsx';
import type { TileProps } from './tile-props.ts';

/** How far, how well, what is stuck: each number opens its turns. */
export function FiguresTile({ answer }: TileProps<'figures'>) {
  const { get } = useAddress();
  return (
    <div className="card flex-1 px-4 py-3.5">
      <WhereHeadline view={answer} query={readTableQuery(get)} />
      <BatonBar counts={answer.total} />
      <p className="mt-2 text-[13px] text-soft">
        {answer.chosen.length === 0 ? 'No cycle is of that kind at the moment.' : listNames(answer.chosen.map(({ name }) => name))}
      </p>
    </div>
  );
}
