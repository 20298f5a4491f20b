import { hasRight } from '../../programmes/roles.ts';
import type { Decide } from './event.ts';
import { accept, refuse } from './event.ts';
import { endAttempt, findOpen } from './finish.ts';
import { findFourEyesRefusal } from './pass.ts';
import { withTurns } from './runs-state.ts';

/**
 * An attempt under way goes to other hands, with all that was done so far. From a runner it is taken by the lead, or by somebody of the turn's lane for
 * herself; to runners it is given by whoever makes it.
 */
export const handOver: Decide<'hand over'> = (state, { attempt, to, word }, { by }) => {
  const found = findOpen(state, attempt);
  if (!found) return refuse('conflict', 'This attempt is not under way any more.');
  const { run, turn, open } = found;
  if (run.cycle.state === 'closed') return refuse('conflict', `Cycle ${run.cycle.code} is closed; its turns stay as they are.`);
  if (open.personId === to.personId) return accept(state);
  const isTakenFromRunner = open.isWithRunners && !to.isPool;
  const isGivenToRunners = to.isPool && open.personId === by.personId;
  if (!isTakenFromRunner && !isGivenToRunners)
    return refuse('forbidden', open.isWithRunners ? 'This turn is with runners already.' : 'This attempt is somebody else’s.');
  const isInLane = turn.teamId !== null && by.teams.includes(turn.teamId);
  if (isTakenFromRunner && !hasRight(by.roles, 'run cycles') && !(isInLane && to.personId === by.personId))
    return refuse('forbidden', 'You can take turns of your own lane from a runner. Ask the lead for this one.');
  const refusal = findFourEyesRefusal(run, turn, to.personId);
  if (refusal) return { ok: false, refusal };
  const change = {
    assigneeId: to.personId,
    open: { ...open, personId: to.personId, isWithRunners: to.isPool, runnerId: null },
  };
  return accept(withTurns(state, new Map([[turn.id, change]])), [
    {
      ...{ kind: 'history', subject: 'turn', subjectId: turn.id, action: isTakenFromRunner ? 'taken from a runner' : 'given to runners' },
      details: { attempt, from: open.personId, to: to.personId, word },
    },
  ]);
};

/** The attempt stays as far as it came. Once, another runner begins anew; the second time in a row somebody looks first. */
export const breakOff: Decide<'break off'> = (state, { attempt, isAgain, why }, { atMs }) => {
  const found = findOpen(state, attempt);
  if (!found) return accept(state);
  const { turn, open } = found;
  const latest = endAttempt(open, { outcome: 'blocked', atMs, isAbandoned: !isAgain });
  return accept(withTurns(state, new Map([[turn.id, { open: null, latest }]])), [
    { kind: 'history', subject: 'turn', subjectId: turn.id, action: 'attempt broken off', details: { attempt, why } },
    ...(isAgain ? [{ kind: 'tell blocked' as const, turn: turn.id, why }] : []),
  ]);
};
