import type { Routes } from '@kindred-baton/contracts/routes';
import type { Answers } from '../call.ts';
import { cycleAnswers } from './cycles/cycle-answers.ts';
import { defectAnswers } from './defects/defect-answers.ts';
import { doorAnswers } from './doors/door-answers.ts';
import { findAnswers } from './find/find-answers.ts';
import { importAnswers } from './imports/import-answers.ts';
import { jobAnswers } from './jobs/job-answers.ts';
import { mapAnswers } from './map/map-answers.ts';
import { personaAnswers } from './personas/persona-answers.ts';
import { programmeAnswers } from './programmes/programme-answers.ts';
import { progressAnswers } from './progress/progress-answers.ts';
import { requirementAnswers } from './requirements/requirement-answers.ts';
import { boardAnswers } from './boards/board-answers.ts';
import { extractAnswers } from './extracts/extract-answers.ts';
import { runnerAnswers } from './runners/runner-answers.ts';
import { scenarioAnswers } from './scenarios/scenario-answers.ts';
import { testAnswers } from './tests/test-answers.ts';
import { turnAnswers } from './turns/turn-answers.ts';

/** How every route is answered. */
export const ANSWERS: Answers<Routes> = {
  ...programmeAnswers,
  ...mapAnswers,
  ...requirementAnswers,
  ...personaAnswers,
  ...testAnswers,
  ...doorAnswers,
  ...scenarioAnswers,
  ...cycleAnswers,
  ...turnAnswers,
  ...runnerAnswers,
  ...defectAnswers,
  ...progressAnswers,
  ...extractAnswers,
  ...boardAnswers,
  ...importAnswers,
  ...jobAnswers,
  ...findAnswers,
};
