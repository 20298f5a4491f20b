import { createShares, drawWeight } from './censored-samples.ts';
import type { CourseFacts } from './course.ts';
import { drawBeta } from './draw-beta.ts';
import type { Paces } from './measure-paces.ts';

/** What is drawn for a path through the rest of a cycle: for all of it how often each lane goes wrong and what its days weigh, then day by day. */
export interface PathDraws {
  /** Begins another path. */
  readonly begin: () => void;
  /** Planned minutes for each minute that a lane's people have. */
  readonly pace: (lane: number) => number;
  readonly goesWrong: (lane: number) => boolean;
  /** Days until what went wrong can be tried again. */
  readonly repair: () => number;
  /** Days before it is due from which on a turn is taken up. */
  readonly lead: () => number;
}

/** What all lanes say of one weighs as much as so many attempts of its own. */
const PRIOR_ATTEMPTS = 2;
const MOST_ERRORS = 0.95;

export function createPathDraws({ lanes }: CourseFacts, paces: Paces, random: () => number): PathDraws {
  const wrong = paces.lanes.reduce((sum, pace) => sum + pace.wrong, 0);
  const tried = paces.lanes.reduce((sum, pace) => sum + pace.wrong + pace.right, 0);
  const usual = tried > 0 ? (wrong + 0.5) / (tried + 1) : 0;
  const weigh = () => drawWeight(random);
  /** Of each lane how many more go right before one goes wrong: one number is drawn for each that does, not for each that is tried. */
  const rightBefore = new Float64Array(lanes.length).fill(Infinity);
  const logRight = new Float64Array(lanes.length);
  const drawRight = (lane: number) => Math.floor(Math.log(1 - random()) / logRight[lane]!);
  const ofLanes = paces.lanes.map(({ samples }) => createShares(samples));
  const repairs = createShares(paces.repairs);
  const leads = createShares(paces.leads);
  return {
    begin: () => {
      for (const shares of ofLanes) shares.weigh(weigh);
      repairs.weigh(weigh);
      leads.weigh(weigh);
      if (tried === 0) return;
      paces.lanes.forEach((pace, at) => {
        const share = drawBeta(PRIOR_ATTEMPTS * usual + pace.wrong, PRIOR_ATTEMPTS * (1 - usual) + pace.right, random);
        logRight[at] = Math.log(1 - Math.min(MOST_ERRORS, share));
        rightBefore[at] = drawRight(at);
      });
    },
    pace: (lane) => ofLanes[lane]!.draw(random()),
    goesWrong: (lane) => {
      const isWrong = rightBefore[lane] === 0;
      rightBefore[lane] = isWrong ? drawRight(lane) : rightBefore[lane]! - 1;
      return isWrong;
    },
    repair: () => repairs.draw(random()),
    lead: () => (paces.leads.length > 0 ? leads.draw(random()) : Infinity),
  };
}
