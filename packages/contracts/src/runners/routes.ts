import { z } from 'zod';
import { doneSchema, idSchema, personSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as runner from './runner.ts';
import * as trial from './trial.ts';

const pool = { pool: idSchema<'person'>() };
const tried = { trial: idSchema<'trial'>() };
const one = { runner: idSchema<'runner'>() };
const lead = { right: 'run cycles', topics: ['runners'] } as const;
/** Asked by the machines themselves, with their token. */
const machine = { right: 'make attempts', for: 'runners' } as const;

export const runnerRoutes = defineRoutes({
  getRunners: { method: 'GET', path: '/runners', output: runner.runnersViewSchema, right: 'read', topics: ['runners', 'turns', 'cycles'] },
  listPools: {
    ...{ method: 'GET', path: '/pools', output: z.object({ pools: z.array(personSchema.extend({ sessions: z.int() })) }) },
    ...{ right: 'read', topics: ['runners'] },
  },
  addPool: { method: 'POST', path: '/pools', input: runner.poolSchema, output: z.object({ id: idSchema<'person'>() }), ...lead },
  savePool: { method: 'PUT', path: '/pools/:pool', params: pool, input: runner.poolSchema, output: doneSchema, ...lead },
  removePool: {
    ...{ method: 'DELETE', path: '/pools/:pool', params: pool, output: doneSchema },
    ...{ right: 'run cycles', topics: ['programme', 'runners', 'turns'] },
  },
  addRunner: { method: 'POST', path: '/runners', input: runner.addRunnerSchema, output: runner.runnerAddedSchema, ...lead },
  orderRunner: {
    ...{ method: 'PUT', path: '/runners/:runner/order', params: one, input: runner.orderRunnerSchema, output: doneSchema },
    ...{ right: 'run cycles', topics: ['runners', 'turns'] },
  },
  /** Its token is withdrawn; what it did stays. */
  retireRunner: {
    ...{ method: 'DELETE', path: '/runners/:runner', params: one, output: doneSchema },
    ...{ right: 'run cycles', topics: ['programme', 'runners', 'turns'] },
  },
  askTrial: {
    ...{ method: 'POST', path: '/trials', input: trial.askTrialSchema, output: doneSchema, right: 'edit tests', topics: ['trials'] },
  },
  getTrial: { method: 'GET', path: '/trials/:trial', params: tried, output: trial.trialSchema, right: 'edit tests', topics: ['trials'] },
  getTrialPicture: { method: 'GET', path: '/trials/:trial/picture', params: tried, output: null, right: 'edit tests', topics: [] },
  stopTrial: { method: 'DELETE', path: '/trials/:trial', params: tried, output: doneSchema, right: 'edit tests', topics: ['trials'] },
  recordTrial: {
    ...{ method: 'POST', path: '/trials/:trial/steps', params: tried, input: trial.recordTrialSchema, output: doneSchema },
    ...{ ...machine, topics: ['trials'] },
  },
  finishTrial: { method: 'POST', path: '/trials/:trial/finish', params: tried, output: doneSchema, ...machine, topics: ['trials'] },
  /** Waits until there is a turn to do, or so long. */
  askWork: { method: 'POST', path: '/runners/work', input: runner.askWorkSchema, output: runner.workAnswerSchema, ...machine, topics: [] },
  /** It ends; another process may come with its token at once. */
  partRunner: {
    ...{ method: 'POST', path: '/runners/part', input: z.object({ instance: z.uuid() }), output: doneSchema },
    ...{ ...machine, topics: ['runners', 'turns'] },
  },
  hearRunner: { method: 'POST', path: '/runners/heard', input: runner.heardSchema, output: runner.ordersSchema, ...machine, topics: [] },
});
