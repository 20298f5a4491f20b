import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import { courseQuerySchema, courseSchema } from './course.ts';
import { defectCourseQuerySchema, defectCourseSchema } from './defects.ts';
import { effortQuerySchema, effortSchema, minuteProposalsSchema, takeMinutesSchema, tookMinutesSchema } from './effort.ts';
import { holdsQuerySchema, holdsSchema } from './holds.ts';
import { keepDecisionSchema, outlookQuerySchema, outlookSchema } from './outlook.ts';
import { progressFileQuerySchema } from './file.ts';
import { progressQuerySchema, progressSchema } from './progress.ts';
import { sinceQuerySchema, sinceSchema } from './since.ts';
import { teamProgressQuerySchema, teamProgressSchema } from './teams.ts';
import { stepTriesQuerySchema, stepTriesSchema, wrongStepsQuerySchema, wrongStepsSchema } from './wrong-steps.ts';

export const progressRoutes = defineRoutes({
  getProgress: {
    ...{ method: 'GET', path: '/progress', input: progressQuerySchema, output: progressSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects'] },
  },
  getProgressFile: {
    ...{ method: 'GET', path: '/progress/file', input: progressFileQuerySchema, output: null, right: 'read', topics: [] },
  },
  getHolds: {
    ...{ method: 'GET', path: '/progress/holds', input: holdsQuerySchema, output: holdsSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects'] },
  },
  getCourse: {
    ...{ method: 'GET', path: '/progress/course', input: courseQuerySchema, output: courseSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'programme'] },
  },
  getDefectCourse: {
    ...{ method: 'GET', path: '/progress/defects', input: defectCourseQuerySchema, output: defectCourseSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'defects'] },
  },
  getEffort: {
    ...{ method: 'GET', path: '/progress/effort', input: effortQuerySchema, output: effortSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'programme'] },
  },
  getMinuteProposals: {
    ...{ method: 'GET', path: '/progress/minutes', output: minuteProposalsSchema, right: 'read', topics: ['cycles', 'turns', 'tests'] },
  },
  takeMinutes: {
    ...{ method: 'POST', path: '/progress/minutes', input: takeMinutesSchema, output: tookMinutesSchema },
    ...{ right: 'edit tests', topics: ['tests'] },
  },
  getOutlook: {
    ...{ method: 'GET', path: '/progress/outlook', input: outlookQuerySchema, output: outlookSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects', 'tests'] },
  },
  keepDecision: {
    ...{ method: 'POST', path: '/progress/decisions', input: keepDecisionSchema, output: doneSchema },
    ...{ right: 'run cycles', topics: ['cycles'] },
  },
  takeBackDecision: {
    ...{
      method: 'DELETE',
      path: '/progress/decisions/:decision',
      params: { decision: idSchema<'decision'>() },
      output: doneSchema,
    },
    ...{ right: 'run cycles', topics: ['cycles'] },
  },
  getSince: {
    ...{ method: 'GET', path: '/progress/since', input: sinceQuerySchema, output: sinceSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects'] },
  },
  getTeamProgress: {
    ...{ method: 'GET', path: '/progress/teams', input: teamProgressQuerySchema, output: teamProgressSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects', 'programme'] },
  },
  getWrongSteps: {
    ...{ method: 'GET', path: '/progress/steps', input: wrongStepsQuerySchema, output: wrongStepsSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects', 'tests'] },
  },
  getStepTries: {
    ...{ method: 'GET', path: '/progress/steps/tries', input: stepTriesQuerySchema, output: stepTriesSchema },
    ...{ right: 'read', topics: ['map', 'cycles', 'turns', 'defects', 'tests'] },
  },
});
