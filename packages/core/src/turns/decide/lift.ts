import { isHolding } from '../../defects/defect.ts';
import { hasRight } from '../../programmes/roles.ts';
import type { Decide } from './event.ts';
import { accept, NO_TURN, refuse } from './event.ts';
import { findTurn, listDefectsOf, withTurns } from './runs-state.ts';

/** What blocked a turn is out of the way: it is with its tester again. Said by the lead, or by whoever has the turn. */
export const lift: Decide<'lift'> = (state, { turn: id, word }, { by }) => {
  const found = findTurn(state, id);
  if (!found) return NO_TURN;
  const { turn, run } = found;
  if (run.cycle.state === 'closed') return refuse('conflict', `Cycle ${run.cycle.code} is closed; its turns stay as they are.`);
  if (turn.assigneeId !== by.personId && !hasRight(by.roles, 'run cycles'))
    return refuse('forbidden', 'A block is lifted by the lead, or by whoever has the turn.');
  if (turn.latest?.outcome !== 'blocked' || turn.open) return refuse('conflict', `${turn.title} is not blocked.`);
  const holding = listDefectsOf(state, id).filter(({ status }) => isHolding(status));
  if (holding.length > 0) return refuse('conflict', `${holding.map(({ code }) => code).join(', ')} must be fixed first.`);
  return accept(withTurns(state, new Map([[id, { liftedAfter: turn.latest.number }]])), [
    { kind: 'history', subject: 'turn', subjectId: id, action: 'block lifted', details: { word } },
    { kind: 'tell lifted', turn: id, word },
  ]);
};
