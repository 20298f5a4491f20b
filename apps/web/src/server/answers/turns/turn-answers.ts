import { AppError } from '@kindred-baton/contracts/errors';
import type { turnRoutes } from '@kindred-baton/contracts/turns/routes';
import { doAside } from '../../aside/do-aside.ts';
import { handOver } from '@kindred-baton/store/turns/change-hands';
import { getCapture, keepCapture } from '@kindred-baton/store/evidence/keep-capture';
import { dropEvidence, getEvidence, keepEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import { getGuide } from '@kindred-baton/store/turns/get-guide';
import { getRunOverlay } from '@kindred-baton/store/turns/get-run-overlay';
import { getTurnsHome, markSeen } from '@kindred-baton/store/turns/get-turns-home';
import { keepSheet } from '@kindred-baton/store/turns/keep-sheet';
import { getQuestion } from '@kindred-baton/store/turns/get-question';
import { listTurns } from '@kindred-baton/store/turns/list-turns';
import { finishAttempt, recordStep, startAttempt } from '@kindred-baton/store/turns/make-attempts';
import { liftBlock } from '@kindred-baton/store/turns/lift-block';
import { nudge } from '@kindred-baton/store/turns/nudge';
import { sayMinutes } from '@kindred-baton/store/turns/say-minutes';
import { passTurn } from '@kindred-baton/store/turns/pass-turn';
import type { Answers } from '../../call.ts';
import { openDoor } from '../doors/open-door.ts';
import { getLog } from '../../log.ts';
import { readForm } from '../../read-body.ts';
import { readUpload } from '../../read-upload.ts';
import { answerRunReport } from './answer-run-report.ts';
import { answerTurnFile } from './answer-turn-files.ts';
import { readEvidence } from './read-evidence.ts';

const MAX_FORM_BYTES = 11 * 1024 * 1024;

export const turnAnswers: Answers<typeof turnRoutes> = {
  getTurnsHome: ({ ask }) => ask(getTurnsHome, undefined),
  listTurns: ({ ask, input }) => ask(listTurns, input),
  markSeen: ({ perform }) => perform(markSeen, undefined),
  getGuide: ({ ask, params }) => ask(getGuide, params.turn),
  passTurn: ({ perform, params, input }) => perform(passTurn, { turnId: params.turn, ...input }),
  liftBlock: ({ perform, params, input }) => perform(liftBlock, { turnId: params.turn, ...input }),
  nudge: ({ perform, params }) => perform(nudge, params.turn),
  startAttempt: ({ perform, params, input }) => perform(startAttempt, { turnId: params.turn, ...input }),
  exportTurn: answerTurnFile,
  keepSheet: async ({ perform, params, request }) => {
    const sheet = await doAside('turn sheet', await readUpload(request));
    if (!sheet.ok) throw new AppError('invalid', `${sheet.message} Nothing was kept.`);
    return perform(keepSheet, { turnId: params.turn, mark: sheet.mark, lines: sheet.lines });
  },
  recordStep: ({ perform, params, input }) => perform(recordStep, { attemptId: params.attempt, stepIndex: params.step, word: input }),
  askForStep: async ({ ask, params }) => {
    const { doors, ...question } = await ask(getQuestion, { attemptId: params.attempt, stepIndex: params.step });
    return doAside('ask door', { ...question, doors: doors.map(openDoor) });
  },
  finishAttempt: async ({ perform, params }) => {
    const finished = await perform(finishAttempt, params.attempt);
    getLog().info({ attempt: params.attempt, outcome: finished.outcome }, 'attempt finished');
    return finished;
  },
  handOver: ({ perform, params, input }) => perform(handOver, { attemptId: params.attempt, ...input }),
  sayMinutes: ({ perform, params, input }) => perform(sayMinutes, { attemptId: params.attempt, ...input }),
  keepEvidence: async ({ perform, params, request }) => {
    const file = await readEvidence(await readForm(request, MAX_FORM_BYTES));
    return perform(keepEvidence, { ...file, attemptId: params.attempt });
  },
  keepCapture: ({ perform, params, input }) =>
    perform(keepCapture, { attemptId: params.attempt, stepIndex: params.step, content: Buffer.from(input.gzip, 'base64') }),
  getCapture: async ({ ask, params }) => {
    const content = await ask(getCapture, { attemptId: params.attempt, stepIndex: params.step });
    const headers = { 'content-type': 'application/json', 'content-encoding': 'gzip', 'cache-control': 'private, no-cache' };
    return new Response(new Uint8Array(content), { headers });
  },
  getEvidence: async ({ ask, params }) => {
    const { content, mediaType, name } = await ask(getEvidence, params.evidence);
    return new Response(new Uint8Array(content), {
      headers: {
        'content-type': mediaType,
        'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(name)}`,
        'content-security-policy': "sandbox; default-src 'none'",
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  },
  dropEvidence: ({ perform, params }) => perform(dropEvidence, params.evidence),
  exportRun: answerRunReport,
  getRunOverlay: ({ ask, params }) => ask(getRunOverlay, params.run),
};
