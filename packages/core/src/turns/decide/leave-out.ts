import type { Decide } from './event.ts';
import { accept, refuse } from './event.ts';

/** Runs leave the scope: dropped, what nobody tried of them is skipped; or they go to the next cycle and stay as they are. */
export const leaveOut: Decide<'leave out'> = (state, { runs }) => {
  const byId = new Map(runs.map((run) => [run.id, run]));
  const busy = state.runs.filter(({ id }) => byId.has(id)).flatMap((run) => run.turns.filter(({ open }) => open !== null));
  if (busy[0]) return refuse('conflict', `${busy[0].title} is under way; its run can be taken out once that attempt is finished.`);
  return accept({
    ...state,
    runs: state.runs.map((run) => {
      const left = byId.get(run.id);
      return left ? { ...run, leftTo: left.to, leftReason: left.reason } : run;
    }),
  });
};
