import { eq, inArray } from 'drizzle-orm';
import type { PersonId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Context } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { scenarios } from '../schema/scenarios.ts';
import type { TurnFacts } from '@kindred-baton/core/turns/decide/runs-state';
import { people } from '../schema/people.ts';
import { SITE, writeMails } from './write-mails.ts';

const SHOWN = 12;

/** Says to each person which batons have come to her: one letter, however many. */
export async function tellReady(context: Context, ready: readonly TurnFacts[]): Promise<void> {
  const lines = await describeTurns(context, ready);
  await writeMails(
    context,
    'baton',
    [...lines].map(([to, own]) => ({
      to,
      subject: own.length === 1 ? `With you now: ${own[0]?.title}` : `${own.length} turns are with you now`,
      text: `${own.length === 1 ? 'The baton has come to you' : 'These batons have come to you'}:\n\n${toList(own)}`,
    })),
  );
}

/** Says to the testers of its turns that a defect is fixed. */
export async function tellFixed(
  context: Context,
  defect: { readonly code: string; readonly title: string },
  retests: readonly TurnFacts[],
): Promise<void> {
  const lines = await describeTurns(context, retests);
  await writeMails(
    context,
    'fixed',
    [...lines].map(([to, own]) => ({
      to,
      subject: `${defect.code} is fixed: please test again`,
      text: `${defect.code}, ${defect.title}, is fixed. It is with you again:\n\n${toList(own)}`,
    })),
  );
}

/** Says to who has a turn now, and to who had it, that it was passed on, with the word that came with it. */
export async function tellPassedOn(
  context: Context,
  turn: TurnFacts,
  { from, to, word }: { readonly from: PersonId | null; readonly to: PersonId; readonly word: string },
): Promise<void> {
  const [by] = await context.db.select({ name: people.name }).from(people).where(eq(people.id, context.actor.personId));
  const said = word === '' ? '' : `\n\n${by?.name} says: ${word}`;
  const link = `\n\n${SITE}/${context.actor.programmeKey}/turns/${turn.id}`;
  const letters = [
    { to, subject: `With you now: ${turn.title}`, text: `${by?.name} has passed a turn to you: ${turn.title}.${said}${link}` },
  ];
  if (from && from !== to)
    letters.push({
      to: from,
      subject: `No longer with you: ${turn.title}`,
      text: `${by?.name} has passed your turn on: ${turn.title}.${said}${link}`,
    });
  await writeMails(context, 'baton', letters);
}

/** Asks whoever has the baton for it. */
export async function tellNudged(
  context: Context,
  turn: TurnFacts,
  { to, from, waiting }: { readonly to: PersonId; readonly from: string; readonly waiting: string | null },
): Promise<void> {
  await writeMails(context, 'nudge', [
    {
      to,
      subject: `${from} waits for ${turn.title}`,
      text: `When you have a moment: ${from} waits for what ${turn.title} hands on${waiting === null ? '' : `, to go on with ${waiting}`}.\n\n${SITE}/${context.actor.programmeKey}/turns/${turn.id}\n\nIf something keeps you from it, say so there (“I cannot go on”): then it can be helped.`,
    },
  ]);
}

interface Line {
  readonly title: string;
  readonly text: string;
}

const toList = (lines: readonly Line[]) =>
  [...lines.slice(0, SHOWN).map(({ text }) => text), ...(lines.length > SHOWN ? [`and ${lines.length - SHOWN} more: ${SITE}`] : [])].join(
    '\n\n',
  );

async function describeTurns({ db, actor }: Context, turns: readonly TurnFacts[]): Promise<Map<PersonId, Line[]>> {
  const own = turns.filter(({ assigneeId }) => assigneeId !== null);
  const lines = new Map<PersonId, Line[]>();
  if (own.length === 0) return lines;
  const rows = await db
    .select({ id: runs.id, rowName: runs.rowName, scenario: scenarios.name })
    .from(runs)
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .where(inArray(runs.id, [...new Set(own.map(({ runId }) => runId))]));
  const runOf = new Map(rows.map((run) => [run.id, run]));
  for (const turn of own) {
    const run = runOf.get(turn.runId);
    const text = `${turn.title}\n  ${run?.scenario ?? ''}${run?.rowName ? `, ${run.rowName}` : ''}${turn.dueOn ? `; due ${turn.dueOn}` : ''}\n  ${SITE}/${actor.programmeKey}/turns/${turn.id}`;
    if (turn.assigneeId) pushTo(lines, turn.assigneeId, { title: turn.title, text });
  }
  return lines;
}
