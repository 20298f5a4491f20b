import { z } from 'zod';
import { doneSchema, evidenceSchema, idSchema } from '../common.ts';
import { doorAnswerSchema } from '../doors/door.ts';
import { defineRoutes } from '../route.ts';
import { runOverlaySchema } from '../scenarios/scenario.ts';
import * as turn from './turn.ts';

const read = { right: 'read', topics: ['turns', 'cycles', 'defects'] } as const;
const make = { right: 'make attempts' } as const;
/** A runner leaves attempts of the same kind. */
const makeToo = { right: 'make attempts', for: 'runners too' } as const;
const turnParam = { turn: idSchema<'turn'>() };
const attempt = { attempt: idSchema<'attempt'>() };
const step = { ...attempt, step: z.coerce.number().int().min(0) };
const run = { run: idSchema<'run'>() };
const evidence = { evidence: idSchema<'evidence'>() };

export const turnRoutes = defineRoutes({
  getTurnsHome: { method: 'GET', path: '/turns', output: turn.turnsHomeSchema, ...read },
  listTurns: { method: 'GET', path: '/turns/list', input: turn.turnListQuerySchema, output: turn.turnListSchema, ...read },
  markSeen: { method: 'POST', path: '/turns/seen', output: doneSchema, right: 'read', topics: [] },
  getGuide: { method: 'GET', path: '/turns/:turn', params: turnParam, output: turn.guideSchema, ...read },
  passTurn: {
    ...{ method: 'PUT', path: '/turns/:turn/assignee', params: turnParam, input: turn.passTurnSchema, output: doneSchema },
    ...{ ...make, topics: ['turns'] },
  },
  liftBlock: {
    ...{ method: 'POST', path: '/turns/:turn/lift', params: turnParam, input: turn.liftBlockSchema, output: doneSchema },
    ...{ ...make, topics: ['turns'] },
  },
  nudge: { method: 'POST', path: '/turns/:turn/nudge', params: turnParam, output: turn.nudgedSchema, ...make, topics: ['turns'] },
  startAttempt: {
    ...{ method: 'POST', path: '/turns/:turn/attempts', params: turnParam, input: turn.startAttemptSchema },
    ...{ output: z.object({ number: z.int() }), ...make, topics: ['turns'] },
  },
  /** The turn as a workbook to fill in, a document, or the report of an attempt. */
  exportTurn: { method: 'GET', path: '/turns/:turn/sheet', params: turnParam, output: null, right: 'read', topics: [] },
  /** A filled-in sheet comes back. */
  keepSheet: {
    ...{ method: 'POST', path: '/turns/:turn/sheet', params: turnParam, takes: 'file', output: turn.finishedSchema },
    ...{ ...make, topics: ['turns', 'defects'] },
  },
  /** The busiest of all: nobody else's view waits for it. */
  recordStep: {
    ...{ method: 'PUT', path: '/attempts/:attempt/steps/:step', params: step },
    ...{ input: turn.recordStepSchema, output: doneSchema, ...makeToo, topics: [] },
  },
  /** Asks the door of a step for whoever does it by hand; nothing is recorded by that. */
  askForStep: {
    ...{ method: 'POST', path: '/attempts/:attempt/steps/:step/ask', params: step },
    ...{ output: doorAnswerSchema, ...make, topics: [] },
  },
  finishAttempt: {
    ...{ method: 'POST', path: '/attempts/:attempt/finish', params: attempt, output: turn.finishedSchema },
    ...{ ...makeToo, topics: ['turns', 'defects'] },
  },
  /** An attempt under way goes to other hands. */
  handOver: {
    ...{ method: 'PUT', path: '/attempts/:attempt/hands', params: attempt, input: turn.passTurnSchema, output: doneSchema },
    ...{ ...make, topics: ['turns', 'runners'] },
  },
  /** What an own attempt took, instead of what its words say. */
  sayMinutes: {
    ...{ method: 'PUT', path: '/attempts/:attempt/minutes', params: attempt, input: turn.sayMinutesSchema, output: doneSchema },
    ...{ ...make, topics: ['turns'] },
  },
  keepEvidence: {
    ...{ method: 'POST', path: '/attempts/:attempt/evidence', params: attempt, takes: 'file', output: evidenceSchema },
    ...{ ...makeToo, topics: ['turns'] },
  },
  /** The screen of a step as data, from a runner. */
  keepCapture: {
    ...{ method: 'PUT', path: '/attempts/:attempt/steps/:step/capture', params: step, input: turn.keepCaptureSchema, output: doneSchema },
    ...{ right: 'make attempts', for: 'runners', topics: [] },
  },
  getCapture: { method: 'GET', path: '/attempts/:attempt/steps/:step/capture', params: step, output: null, right: 'read', topics: [] },
  getEvidence: { method: 'GET', path: '/evidence/:evidence', params: evidence, output: null, right: 'read', topics: [] },
  /** Taken back, while its attempt is under way. */
  dropEvidence: {
    ...{ method: 'DELETE', path: '/evidence/:evidence', params: evidence, output: doneSchema },
    ...{ ...make, topics: ['turns'] },
  },
  /** A whole run as a document: pdf, or html to be printed by the browser. */
  exportRun: { method: 'GET', path: '/runs/:run/report', params: run, output: null, right: 'read', topics: [] },
  getRunOverlay: {
    ...{ method: 'GET', path: '/runs/:run', params: run, output: runOverlaySchema },
    ...{ right: 'read', topics: ['turns', 'defects'] },
  },
});
