import { DONE } from '@kindred-baton/contracts/common';
import { scenarioUndoSchema } from '@kindred-baton/contracts/scenarios/scenario';
import type { scenarioRoutes } from '@kindred-baton/contracts/scenarios/routes';
import { changeScenario, createScenario } from '@kindred-baton/store/scenarios/change-scenarios';
import { compareScenario, listScenarioStates } from '@kindred-baton/store/scenarios/compare-scenario';
import { draftForLeg } from '@kindred-baton/store/scenarios/draft-for-leg';
import { editScenario } from '@kindred-baton/store/scenarios/edit-scenario';
import { findChainInLibrary } from '@kindred-baton/store/scenarios/find-chain';
import { getMapGaps, getMapWay } from '@kindred-baton/store/scenarios/follow-map';
import { getOverlaps } from '@kindred-baton/store/scenarios/get-overlaps';
import { getScenario } from '@kindred-baton/store/scenarios/get-scenario';
import { countToFix, listScenarioNames, listScenarios } from '@kindred-baton/store/scenarios/list-scenarios';
import { proposeForLegs } from '@kindred-baton/store/scenarios/propose-for-legs';
import { getChangeReview, replaceTest, takeVersion } from '@kindred-baton/store/scenarios/review-change';
import type { Answers } from '../../call.ts';
import { answerScenarioExport } from './answer-scenario-export.ts';

export const scenarioAnswers: Answers<typeof scenarioRoutes> = {
  listScenarios: ({ ask, input }) => ask(listScenarios, input),
  countToFix: ({ ask, input }) => ask(countToFix, input),
  listScenarioNames: ({ ask }) => ask(listScenarioNames, undefined),
  createScenario: ({ perform, input }) => perform(createScenario, input),
  getScenario: ({ ask, params }) => ask(getScenario, params.code),
  changeScenario: async ({ perform, params, input }) => {
    await perform(changeScenario, { ...params, change: input });
    return DONE;
  },
  editScenario: async ({ perform, params, input }) => {
    const { undo } = await perform(editScenario, { ...params, ...input });
    // Core's edits are read-only; on the wire they are plain.
    return scenarioUndoSchema.parse({ undo });
  },
  draftForLeg: ({ perform, params, input: { leg, code, node } }) => perform(draftForLeg, { ...params, leg, test: code, node }),
  compareScenario: ({ ask, params, input }) => ask(compareScenario, { ...params, ...input }),
  listScenarioStates: ({ ask, params }) => ask(listScenarioStates, params.code),
  getMapWay: ({ ask, params }) => ask(getMapWay, params.code),
  proposeForLegs: ({ ask, params }) => ask(proposeForLegs, params.code),
  exportScenario: answerScenarioExport,
  findChain: ({ ask, input }) => ask(findChainInLibrary, input),
  getMapGaps: ({ ask }) => ask(getMapGaps, undefined),
  getOverlaps: ({ ask }) => ask(getOverlaps, undefined),
  getChangeReview: ({ ask, input }) => ask(getChangeReview, input),
  takeVersion: ({ perform, input }) => perform(takeVersion, input),
  replaceTest: ({ perform, input }) => perform(replaceTest, input),
};
