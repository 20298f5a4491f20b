import { randomUUID } from 'node:crypto';
import { asc, eq, max, sql } from 'drizzle-orm';
import { addWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { DEFAULT_NOTICES } from '@kindred-baton/core/programmes/notices';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getActor } from '../actor.ts';
import { getPlan } from '../cycles/get-plan.ts';
import { changeDefect } from '../defects/talk-about-defects.ts';
import { moveDefect } from '../defects/change-defects.ts';
import { tellHooks } from '../defects/tell-hooks.ts';
import { sendMails } from '../mails/send-mails.ts';
import { writeNews } from '../progress/write-news.ts';
import { writeDigests } from '../mails/write-digests.ts';
import { defects } from '../schema/defects.ts';
import { mails } from '../schema/mails.ts';
import { people } from '../schema/people.ts';
import { members, programmes } from '../schema/programmes.ts';
import { attempts, turns } from '../schema/turns.ts';
import { startAttempt } from '../turns/make-attempts.ts';
import { nudge } from '../turns/nudge.ts';
import { passTurn } from '../turns/pass-turn.ts';
import { acceptInvitation, findInvitation, invitePeople, leaveProgramme, revokeInvitation, savePerson } from './change-people.ts';
import {
  changeProgramme,
  createProgramme,
  removeApplication,
  removeTeam,
  saveApplication,
  saveEnvironment,
  saveTeam,
} from './change-programme.ts';
import { foundFirst, isEmptyStore } from './found-first.ts';
import { getHistory, getSetUp } from './get-set-up.ts';
import { getViewer } from './get-viewer.ts';
import { getProfile, loadFeed, saveProfile } from './profile.ts';

describe('a programme from nothing', () => {
  let db: TestStore;
  beforeAll(async () => {
    db = await createTestStore('empty');
  });
  afterAll(() => db.drop());

  const programme = { key: 'north', name: 'North', timeZone: 'Europe/Oslo', levels: ['Stream', 'Activity'] };
  const founder = { name: 'Una Berg', email: 'una@north.example', passwordHash: 'x', programme };

  it('is founded once, by whoever comes first', async () => {
    expect(await isEmptyStore(db.store)).toBe(true);
    expect(await foundFirst(db.store, founder)).toBe('north');
    await expect(foundFirst(db.store, { ...founder, email: 'b@north.example' })).rejects.toThrow('Somebody is here already');
  });

  it('gets applications, environments, teams; what is used stays', async () => {
    const [una] = await db.store.db.select().from(people);
    const lead = await getActor(db.store, una?.id as never, 'north');
    const { id: app } = await db.perform(lead, saveApplication, { id: null, name: 'Ledger' });
    const { id: env } = await db.perform(lead, saveEnvironment, {
      id: null,
      name: 'Trial',
      addresses: { [app]: 'https://trial.example/ledger' },
    });
    const team = {
      name: 'Finance',
      colour: '#5C6470',
      workingDays: [1, 3, 3],
      hoursPerDay: 2,
      holidays: ['2026-12-25', '2026-12-25'],
      holidayRegion: 'NO',
    };
    const { id: teamId } = await db.perform(lead, saveTeam, { id: null, team });
    await expect(db.perform(lead, saveTeam, { id: null, team })).rejects.toMatchObject({ code: 'conflict' });
    const setUp = await db.ask(lead, getSetUp, undefined);
    expect(setUp.environments[0]?.addresses).toEqual({ [app]: 'https://trial.example/ledger' });
    expect(setUp.teams[0]).toMatchObject({ workingDays: [1, 3], holidays: ['2026-12-25'] });
    await db.perform(lead, saveTeam, { id: teamId, team: { ...team, hoursPerDay: 3 } });
    await db.perform(lead, saveEnvironment, { id: env, name: 'Trial', addresses: { [app]: 'https://trial.example/books' } });
    await db.perform(lead, changeProgramme, { name: 'North again' });
    await db.perform(lead, savePerson, {
      personId: lead.personId,
      person: { roles: ['lead', 'administrator', 'tester'], teams: [{ id: teamId, hoursPerDay: 1 }], absences: [] },
    });
    const told = (await db.ask(lead, getHistory, {})).lines.slice(0, 4).map(({ action, details }) => `${action}: ${details}`);
    expect(told).toEqual([
      'person changed: roles: lead; administrator → lead; administrator; tester, teams: nothing → Finance 1',
      'changed: name: North → North again',
      'environment changed: Ledger: https://trial.example/ledger → https://trial.example/books',
      'team changed: hours per day: 2 → 3',
    ]);
    await db.perform(lead, savePerson, { personId: lead.personId, person: { roles: ['lead', 'administrator'], teams: [], absences: [] } });
    await db.perform(lead, removeTeam, teamId);
    await db.perform(lead, removeApplication, app);
    expect((await db.ask(lead, getSetUp, undefined)).environments[0]).toMatchObject({ id: env, addresses: {} });
  });

  it('of two, each is seen by its own people only; one can belong to both', async () => {
    const [una] = await db.store.db.select().from(people);
    const lead = await getActor(db.store, una?.id as never, 'north');
    await db.perform(lead, createProgramme, { ...programme, key: 'south', name: 'South' });
    await expect(db.perform(lead, createProgramme, { ...programme, key: 'south', name: 'South' })).rejects.toThrow('at /south already');
    expect((await db.ask(lead, getViewer, undefined)).programmes.map(({ key }) => key)).toEqual(['north', 'south']);
    expect((await db.ask(await getActor(db.store, una?.id as never, 'south'), getSetUp, undefined)).environments).toEqual([]);
    const problem = db.perform(lead, changeProgramme, { cycleScheme: 'round' });
    await expect(problem).rejects.toThrow('needs a number');
  });
});

describe('people of a programme', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const letters = () => db.store.db.select().from(mails).orderBy(asc(mails.createdAt));
  const invite = (email: string, name = 'New Person') =>
    db.perform(lead, invitePeople, { people: [{ name, email, roles: ['tester'], teamIds: [] }] });

  it('are invited by a letter whose link works once', async () => {
    expect(await invite('new@x.example')).toEqual({ invited: 1, added: 0, known: [] });
    const [letter] = await letters();
    const token = /invitation\/(\S+)/.exec(letter?.text ?? '')?.[1] ?? '';
    expect((await findInvitation(db.store, token))?.key).toBe('brindlemere');
    expect(await acceptInvitation(db.store, { token, name: 'New Person', passwordHash: 'x' })).toEqual({
      key: 'brindlemere',
      hadAccount: false,
    });
    await expect(acceptInvitation(db.store, { token, name: 'Again', passwordHash: 'x' })).rejects.toThrow('was used already');
    expect((await db.actorOf('New Person')).roles).toEqual(['tester']);
    expect(await invite('NEW@x.example'.toLowerCase())).toEqual({ invited: 0, added: 0, known: ['new@x.example'] });
  });

  it('who got an account meanwhile keep it as it is, and are in all the same', async () => {
    await invite('twice@x.example', 'Twice');
    const letter = (await letters()).find(({ to }) => to === 'twice@x.example');
    const token = /invitation\/(\S+)/.exec(letter?.text ?? '')?.[1] ?? '';
    await db.store.db.insert(people).values({ id: randomUUID() as never, name: 'Twice Elsewhere', email: 'twice@x.example' });
    expect(await acceptInvitation(db.store, { token, name: 'Twice', passwordHash: 'x' })).toMatchObject({ hadAccount: true });
    expect((await db.actorOf('Twice Elsewhere')).roles).toEqual(['tester']);
  });

  it('lose an invitation that is taken back, and a second letter replaces the first', async () => {
    await invite('late@x.example', 'Late');
    await invite('late@x.example', 'Late');
    const tokens = (await letters()).flatMap(({ to, text }) =>
      to === 'late@x.example' ? [/invitation\/(\S+)/.exec(text)?.[1] ?? ''] : [],
    );
    expect(await findInvitation(db.store, tokens[0] ?? '')).toBeUndefined();
    const { invitations } = await db.ask(lead, getSetUp, undefined);
    await db.perform(lead, revokeInvitation, invitations[0]?.id as never);
    expect(await findInvitation(db.store, tokens[1] ?? '')).toBeUndefined();
  });

  it('always keep somebody who can set up', async () => {
    await expect(
      db.perform(lead, savePerson, { personId: lead.personId, person: { roles: ['tester'], teams: [], absences: [] } }),
    ).rejects.toThrow('Somebody must stay');
    await expect(db.perform(lead, leaveProgramme, { personId: lead.personId, handTo: null })).rejects.toThrow('Somebody must stay');
  });

  it('who leave in mid-cycle hand their turns over; an attempt under way ends as blocked and its turn can be tried again', async () => {
    const sena = await db.actorOf('Sena Adeyo');
    const ivo = await db.actorOf('Ivo Lamb');
    const own = (await db.ask(lead, getPlan, 'ACC-2')).turns.filter(({ person }) => person === sena.personId);
    const ready = own.find(({ status }) => status === 'ready');
    const attempt = randomUUID() as never;
    await db.perform(sena, startAttempt, { turnId: ready?.id as never, id: attempt, browser: '' });
    const { handedOver, ended } = await db.perform(lead, leaveProgramme, { personId: sena.personId, handTo: ivo.personId });
    expect([handedOver > 0, ended]).toEqual([true, 1]);
    const [kept] = await db.store.db.select().from(attempts).where(eq(attempts.id, attempt));
    expect(kept).toMatchObject({ personId: sena.personId, outcome: 'blocked' });
    const [turn] = await db.store.db
      .select()
      .from(turns)
      .where(eq(turns.id, ready?.id as never));
    expect(turn).toMatchObject({ assigneeId: ivo.personId, isRetestDue: true, state: 'ready' });
    await expect(getActor(db.store, sena.personId, 'brindlemere')).rejects.toThrow('no programme');
    expect((await db.ask(lead, getHistory, {})).lines.some(({ action }) => action === 'left')).toBe(true);
  });

  it('have a calendar of their own address, until they take it away', async () => {
    const ines = await db.actorOf('Ines Varga');
    await db.perform(ines, saveProfile, { feed: 'new' });
    const { feed } = await db.ask(ines, getProfile, undefined);
    const token = /calendar\/(.+)\.ics/.exec(feed ?? '')?.[1] ?? '';
    expect((await loadFeed(db.store, token))?.turns.length).toBeGreaterThan(0);
    await db.perform(ines, saveProfile, { feed: 'new' });
    expect(await loadFeed(db.store, token)).toBeUndefined();
  });
});

describe('letters and hooks', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());
  const letters = () => db.store.db.select().from(mails).orderBy(asc(mails.createdAt), asc(mails.subject));
  const drop = () => db.store.db.delete(mails);

  it('say when a defect is fixed, to those who try again, and to nobody who does not want it', async () => {
    await db.perform(lead, moveDefect, { code: 'TQ-203', move: { from: 'accepted', to: 'fixed', reason: '' } });
    const all = await letters();
    expect(all.length).toBeGreaterThan(0);
    expect(all.every(({ subject, text }) => subject.startsWith('TQ-203 is fixed') && text.includes('{site}/brindlemere/turns/'))).toBe(
      true,
    );
    expect(new Set(all.map(({ to }) => to)).size).toBe(all.length);
    await drop();
    const wishes = { notices: { ...DEFAULT_NOTICES, fixed: false } };
    await db.store.db.update(members).set(wishes);
    await db.perform(lead, moveDefect, { code: 'TQ-206', move: { from: 'accepted', to: 'fixed', reason: '' } });
    expect(await letters()).toEqual([]);
  });

  it('nudge once a day, only by who waits, and are counted', async () => {
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const ready = plan.turns.find(
      ({ status, person, run, index }) =>
        status === 'ready' &&
        person !== null &&
        plan.turns.some((turn) => turn.run === run && turn.after.includes(index) && turn.status === 'waiting' && turn.person !== person),
    );
    const waiter = plan.turns.find(
      (turn) => turn.run === ready?.run && turn.after.includes(ready?.index ?? -1) && turn.status === 'waiting',
    );
    const nameOf = (id: string | null | undefined) => plan.people.find((person) => person.id === id)?.name ?? '';
    const actor = await db.actorOf(nameOf(waiter?.person));
    expect(await db.perform(actor, nudge, ready?.id as never)).toEqual({ count: 1, to: nameOf(ready?.person) });
    await expect(db.perform(lead, nudge, ready?.id as never)).rejects.toThrow('asked about this turn within the last day');
    expect((await letters()).at(-1)?.text).toContain('waits for what');
    const stranger = await db.actorOf('Edda Quill');
    await expect(db.perform(stranger, nudge, ready?.id as never)).rejects.toThrow();
  });

  it('go with a turn that is handed over, with the word', async () => {
    await drop();
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const pell = await db.actorOf('Pell Okoro');
    const wanda = await db.actorOf('Wanda Rusk');
    const own = plan.turns.find(({ person, status }) => person === pell.personId && status === 'waiting');
    await db.perform(pell, passTurn, { turnId: own?.id as never, personId: wanda.personId, word: 'You know the yard.' });
    expect((await letters())[0]).toMatchObject({
      to: 'wanda.rusk@brindlemere.example',
      text: expect.stringContaining('You know the yard.'),
    });
    await expect(db.perform(pell, passTurn, { turnId: own?.id as never, personId: lead.personId, word: '' })).rejects.toThrow(
      'turns of your own lane',
    );
    await db.perform(pell, passTurn, { turnId: own?.id as never, personId: pell.personId, word: '' });
    await expect(db.perform(pell, passTurn, { turnId: own?.id as never, personId: lead.personId, word: '' })).rejects.toThrow(
      'somebody of its lane',
    );
  });

  it('are sent once by two senders at a time, and tried again when the post office is away', async () => {
    const waiting = await letters();
    const sent: string[] = [];
    await expect(sendMails(db.store, () => Promise.reject(new Error('away')))).resolves.toBe(waiting.length);
    expect((await letters()).every(({ sentAt, failures, problem }) => sentAt === null && failures === 1 && problem === 'away')).toBe(true);
    await db.store.db.update(mails).set({ nextTryAt: new Date(0) });
    const slow = async ({ subject }: { subject: string }) => {
      await new Promise((resolve) => setTimeout(resolve, 40));
      sent.push(subject);
    };
    await Promise.all([sendMails(db.store, slow), sendMails(db.store, slow)]);
    expect(sent.length).toBe(waiting.length);
    expect((await letters()).every(({ sentAt }) => sentAt !== null)).toBe(true);
  });

  it('come as a digest once a morning to those who asked', async () => {
    await db.store.db
      .update(members)
      .set({ notices: { ...DEFAULT_NOTICES, digest: true } })
      .where(eq(members.personId, (await db.actorOf('Ines Varga')).personId));
    await drop();
    // A Thursday, at eight in the morning in London.
    const morning = { ...db.store, now: () => new Date('2026-11-26T08:00:00Z') };
    expect(await writeDigests(morning)).toBe(1);
    expect(await writeDigests(morning)).toBe(0);
    expect((await letters())[0]?.subject).toMatch(/^This morning: \d+ with you, \d+ due$/);
    expect(await writeDigests({ ...db.store, now: () => new Date('2026-11-28T09:00:00Z') })).toBe(0);
  });

  it('come with what changed, to a lead of all, to an owner of what is hers, once a morning', async () => {
    const names = ['Lea Marsh', 'Anselm Roy'];
    for (const name of names)
      await db.store.db
        .update(members)
        .set({ notices: { ...DEFAULT_NOTICES, news: true } })
        .where(eq(members.personId, (await db.actorOf(name)).personId));
    await drop();
    const [last] = await db.store.db.select({ at: max(turns.doneAt) }).from(turns);
    // The morning after the last day on which the demo's people worked.
    const day = addWorkingDays(toDay(last!.at!.getTime(), 'Europe/London'), 1, { workingDays: [1, 2, 3, 4, 5], holidays: [] });
    const morning = { ...db.store, now: () => new Date(`${day}T08:30:00Z`) };
    expect(await writeNews(morning)).toBe(2);
    expect(await writeNews(morning)).toBe(0);
    const told = await letters();
    expect(told.map(({ toName }) => toName).sort()).toEqual([...names].sort());
    const of = (name: string) => told.find(({ toName }) => toName === name)?.text ?? '';
    expect(of('Lea Marsh')).toMatch(/Acceptance round 2, since .*: \d+ turns? passed/);
    expect(of('Anselm Roy')).toMatch(/Leak to repair in Acceptance round 2, since /);
    expect(of('Anselm Roy').match(/since/g)?.length).toBeLessThanOrEqual(2);
    expect(of('Anselm Roy')).not.toMatch(/^Acceptance round 2, since/m);
  });

  /** Whatever is written on this server holds a hook back until it is through, that of other tests' databases too. */
  async function settle(): Promise<void> {
    const { rows } = await db.store.db.execute<{ now: string }>(sql`select pg_current_xact_id()::text as now`);
    const isThrough = sql`select pg_snapshot_xmin(pg_current_snapshot()) > ${rows[0]?.now}::xid8 as through`;
    await vi.waitFor(async () => expect((await db.store.db.execute(isThrough)).rows).toEqual([{ through: true }]), { timeout: 30_000 });
  }

  it('tell a web hook each change of a defect, in order, also after it was away', async () => {
    await db.perform(lead, changeProgramme, { defectHook: 'https://tracker.example/hook' });
    await db.perform(lead, moveDefect, { code: 'TQ-205', move: { from: 'new', to: 'accepted', reason: '' } });
    await db.perform(lead, moveDefect, { code: 'TQ-205', move: { from: 'accepted', to: 'declined', reason: 'As agreed' } });
    await settle();
    expect(await tellHooks(db.store, () => Promise.reject(new Error('it answered 503')))).toBe(0);
    const [here] = await db.store.db.select().from(programmes);
    expect(here?.hookProblem).toBe('it answered 503');
    const told: { action: string; defect: { code: string } }[] = [];
    await tellHooks(db.store, async (_, body) => void told.push(JSON.parse(body) as never));
    expect(told.map(({ action, defect }) => [action, defect.code])).toEqual([
      ['accepted', 'TQ-205'],
      ['declined', 'TQ-205'],
    ]);
    expect(await tellHooks(db.store, () => Promise.reject(new Error('not again')))).toBe(0);
  });

  it('are told and sent with nothing locked: a hook and a post office that do not answer stop nobody', async () => {
    await db.perform(lead, changeProgramme, { defectHook: 'https://slow.example/hook' });
    await db.perform(lead, moveDefect, { code: 'TQ-210', move: { from: 'accepted', to: 'declined', reason: 'As designed' } });
    await db.store.db.update(mails).set({ sentAt: null, nextTryAt: new Date(0) });
    await settle();
    let release = () => {};
    const hanging = new Promise<void>((resolve) => (release = resolve));
    const asked = { hooks: 0, letters: 0 };
    const telling = tellHooks(db.store, () => ((asked.hooks += 1), hanging));
    const sending = sendMails(db.store, () => ((asked.letters += 1), hanging));
    await vi.waitFor(() => expect([asked.hooks, asked.letters]).toEqual([1, 1]));
    // What writes the programme's own row, and the letters: each would have waited for the answer.
    await db.perform(lead, changeProgramme, { name: 'Brindlemere Water' });
    await db.store.db.execute(sql`select from mails for update nowait`);
    // Another server leaves both alone meanwhile.
    const other = { hooks: 0, letters: 0 };
    await tellHooks(db.store, async () => void (other.hooks += 1));
    await sendMails(db.store, async () => void (other.letters += 1));
    expect(other).toEqual({ hooks: 0, letters: 0 });
    release();
    expect(await telling).toBe(1);
    expect(await sending).toBeGreaterThan(0);
    expect(await tellHooks(db.store, () => Promise.reject(new Error('told twice')))).toBe(0);
  });

  it('tell a hook nothing out of turn: what was numbered before and comes later is told before what came after it', async () => {
    await db.perform(lead, changeProgramme, { defectHook: 'https://tracker.example/hook' });
    const slow = await db.store.pool.connect();
    await slow.query('begin');
    await slow.query(
      `insert into history (programme_id, subject, subject_id, action) select programme_id, 'defect', id, 'first' from defects where code = 'TQ-202'`,
    );
    await db.perform(lead, moveDefect, { code: 'TQ-204', move: { from: 'accepted', to: 'declined', reason: 'x' } });
    const told: string[] = [];
    const tell = () => tellHooks(db.store, async (_, body) => void told.push((JSON.parse(body) as { action: string }).action));
    await tell();
    await slow.query('commit');
    slow.release();
    await settle();
    await tell();
    expect(told).toEqual(['first', 'declined']);
  });

  it('tell the leads of a new defect, whoever it is given to, and whoever found it when it is declined; she who has it may do that', async () => {
    const [first] = await db.store.db.select().from(defects).limit(1);
    const code = first?.code ?? '';
    await db.store.db.update(defects).set({ status: 'accepted', assigneeId: null }).where(eq(defects.code, code));
    await db.store.db.delete(mails);
    const una = await db.actorOf('Una Petrel');
    const wanda = await db.actorOf('Wanda Rusk');
    const told = async () =>
      (await db.store.db.select().from(mails))
        .filter(({ subject }) => subject.startsWith(code))
        .map(({ to, subject }) => `${to} ${subject}`);
    await expect(
      db.perform(una, moveDefect, { code, move: { from: 'accepted', to: 'declined', reason: 'It is meant so.' } }),
    ).rejects.toThrow('does not allow you');
    await db.store.db.update(defects).set({ foundBy: wanda.personId }).where(eq(defects.code, code));
    await db.perform(lead, changeDefect, { code, change: { assigneeId: una.personId } });
    expect(await told()).toEqual([`una.petrel@brindlemere.example ${code} is yours to fix`]);
    await db.perform(una, moveDefect, { code, move: { from: 'accepted', to: 'declined', reason: 'It is meant so.' } });
    expect(await told()).toContain(`wanda.rusk@brindlemere.example ${code} is declined: It is meant so.`);
  });
});
