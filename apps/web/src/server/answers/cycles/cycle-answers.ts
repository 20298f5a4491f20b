import { DONE } from '@kindred-baton/contracts/common';
import type { cycleRoutes } from '@kindred-baton/contracts/cycles/routes';
import { getAcceptanceShown, signOffNode } from '@kindred-baton/store/cycles/acceptance';
import { changeCycle, createCycle } from '@kindred-baton/store/cycles/change-cycles';
import { changeScope, getScopeEffects, takeScenario } from '@kindred-baton/store/cycles/change-scope';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { chooseSingleTest } from '@kindred-baton/store/cycles/choose-single-test';
import { getCycleScope, getFormerRuns } from '@kindred-baton/store/cycles/get-cycle-scope';
import { listRunEnds, listRuns } from '@kindred-baton/store/cycles/list-runs';
import { getPackedPlan } from '@kindred-baton/store/cycles/get-plan';
import { getSinceOpening } from '@kindred-baton/store/cycles/get-since-opening';
import { listCycles } from '@kindred-baton/store/cycles/list-cycles';
import { moveCycle } from '@kindred-baton/store/cycles/move-cycle';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import { doAside } from '../../aside/do-aside.ts';
import type { Answers } from '../../call.ts';
import { answerCycleReport } from './answer-cycle-report.ts';

export const cycleAnswers: Answers<typeof cycleRoutes> = {
  listCycles: ({ ask }) => ask(listCycles, undefined),
  createCycle: ({ perform, input }) => perform(createCycle, input),
  chooseSingleTest: ({ perform, input }) => perform(chooseSingleTest, input.test),
  getCycleScope: ({ ask }) => ask(getCycleScope, undefined),
  getFormerRuns: ({ ask, params }) => ask(getFormerRuns, params.code),
  getCycle: ({ ask, params }) => ask(getCycle, params.code),
  listRuns: ({ ask, params, input }) => ask(listRuns, { ...params, ...input }),
  listRunEnds: ({ ask, params }) => ask(listRunEnds, params.code),
  changeCycle: ({ perform, params, input }) => perform(changeCycle, { ...params, change: input }),
  moveCycle: ({ perform, params, input }) => perform(moveCycle, { ...params, ...input }),
  changeScope: ({ perform, params, input }) => perform(changeScope, { ...params, change: input }),
  getScopeEffects: ({ ask, params, input }) => ask(getScopeEffects, { ...params, ...input }),
  getSinceOpening: ({ ask, params }) => ask(getSinceOpening, params.code),
  takeScenario: ({ perform, params, input }) => perform(takeScenario, { ...params, ...input }),
  getPlan: ({ ask, params }) => ask(getPackedPlan, params.code),
  staffCycle: ({ actor, perform, params, input }) => {
    const given = { ...params, staff: input };
    // Only what plans is heavy; a turn that is given by hand waits for nobody.
    return input.kind === 'give' ? perform(staffCycle, given) : doAside('staff cycle', { actor, route: 'staffCycle' }, given);
  },
  getAcceptance: ({ ask, params, input }) => ask(getAcceptanceShown, { ...params, ...input }),
  signOffNode: async ({ perform, params, input }) => {
    await perform(signOffNode, { ...params, signOff: input });
    return DONE;
  },
  exportReport: answerCycleReport,
};
