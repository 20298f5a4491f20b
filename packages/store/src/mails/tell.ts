import { and, arrayContains, eq, inArray, isNull } from 'drizzle-orm';
import type { Severity } from '@kindred-baton/core/defects/defect';
import { nameSeverity } from '@kindred-baton/core/defects/defect';
import type { PersonId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Context } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { scenarios } from '../schema/scenarios.ts';
import type { TurnFacts } from '@kindred-baton/core/turns/decide/runs-state';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
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
  {
    to,
    from,
    waiting,
    defect,
  }: { readonly to: PersonId; readonly from: string; readonly waiting: string | null; readonly defect: string | null },
): Promise<void> {
  const goesOn = waiting === null ? '' : `, to go on with ${waiting}`;
  const [about, why, page, how] =
    defect === null
      ? [turn.title, `what ${turn.title} hands on`, `turns/${turn.id}`, 'there (“I cannot go on”)']
      : [defect, `the fix of ${defect}, which holds ${turn.title}`, `defects/${defect}`, 'there'];
  await writeMails(context, 'nudge', [
    {
      to,
      subject: `${from} waits for ${about}`,
      text: `When you have a moment: ${from} waits for ${why}${goesOn}.\n\n${SITE}/${context.actor.programmeKey}/${page}\n\nIf something keeps you from it, say so ${how}: then it can be helped.`,
    },
  ]);
}

/** Says to the leads that somebody cannot go on, and why. */
export async function tellBlocked(context: Context, turn: TurnFacts, why: string): Promise<void> {
  await tellLeads(context, {
    subject: `Blocked: ${turn.title}`,
    text: `${await nameActor(context)} cannot go on with ${turn.title}.${why === '' ? '' : `\n\n${why}`}\n\n${toTurn(context, turn)}`,
  });
}

/** Says to the leads that an owner has refused a node. */
export async function tellRefused(
  context: Context,
  {
    cycle,
    node,
    reason,
  }: { readonly cycle: string; readonly node: { readonly code: string; readonly name: string }; readonly reason: string },
): Promise<void> {
  await tellLeads(context, {
    subject: `Refused: ${node.name}`,
    text: `${await nameActor(context)} has refused ${node.name} (${node.code}) in ${cycle}: ${reason}\n\n${SITE}/${context.actor.programmeKey}/cycles/${cycle}?view=acceptance&node=${node.code}`,
  });
}

/** Says to whoever has a turn that what blocked it is out of the way. */
export async function tellLifted(context: Context, turn: TurnFacts, word: string): Promise<void> {
  if (turn.assigneeId === null) return;
  const said = word === '' ? '' : `\n\n${await nameActor(context)} says: ${word}`;
  const text = `What blocked ${turn.title} is out of the way; you can try it again.${said}\n\n${toTurn(context, turn)}`;
  await writeMails(context, 'baton', [{ to: turn.assigneeId, subject: `You can go on: ${turn.title}`, text }]);
}

interface ToldDefect {
  readonly code: string;
  readonly title: string;
}

/** Says to the leads that there is a new defect. */
export async function tellNewDefect(
  context: Context,
  defect: ToldDefect & { readonly severity: Severity; readonly at: string },
): Promise<void> {
  const severity = nameSeverity(defect.severity, context.actor.severityNames);
  await tellLeads(context, {
    subject: `New: ${defect.code}, ${defect.title}`,
    text: `${await nameActor(context)} has logged ${defect.code} at ${defect.at}: ${defect.title} (${severity}).\n\n${toDefect(context, defect)}`,
  });
}

/** Says to people that something became of a defect of theirs: whose it is now, or whoever found it. */
export async function tellDefect(context: Context, defect: ToldDefect, to: readonly PersonId[], what: string): Promise<void> {
  const text = `${await nameActor(context)}: ${defect.code}, ${defect.title}, ${what}.\n\n${toDefect(context, defect)}`;
  await writeMails(
    context,
    'defect',
    [...new Set(to)].map((id) => ({ to: id, subject: `${defect.code} ${what}`, text })),
  );
}

const toTurn = ({ actor }: Context, { id }: TurnFacts) => `${SITE}/${actor.programmeKey}/turns/${id}`;
const toDefect = ({ actor }: Context, { code }: ToldDefect) => `${SITE}/${actor.programmeKey}/defects/${code}`;

async function nameActor({ db, actor }: Context): Promise<string> {
  const [by] = await db.select({ name: people.name }).from(people).where(eq(people.id, actor.personId));
  return by?.name ?? '';
}

async function tellLeads(context: Context, letter: { readonly subject: string; readonly text: string }): Promise<void> {
  const leads = await context.db
    .select({ id: members.personId })
    .from(members)
    .where(and(eq(members.programmeId, context.actor.programmeId), isNull(members.leftAt), arrayContains(members.roles, ['lead'])));
  await writeMails(
    context,
    'defect',
    leads.map(({ id }) => ({ to: id, ...letter })),
  );
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
