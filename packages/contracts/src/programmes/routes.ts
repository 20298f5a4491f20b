import { z } from 'zod';
import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import * as programme from './programme.ts';

const idOf = <Kind extends string>() => ({ id: idSchema<Kind>() });
const own = { right: 'set up the programme', topics: ['programme'] } as const;
const madeSchema = <Kind extends string>() => z.object({ id: idSchema<Kind>() });

export const programmeRoutes = defineRoutes({
  getChoices: { method: 'GET', path: '/choices', output: programme.choicesSchema, right: 'read', topics: ['programme', 'map'] },
  /** What others change, as server-sent events. */
  followChanges: { method: 'GET', path: '/events', output: null, right: 'read', topics: [] },
  getProfile: { method: 'GET', path: '/me', output: programme.profileSchema, right: 'read', topics: ['programme'] },
  saveProfile: {
    method: 'PATCH',
    path: '/me',
    input: programme.saveProfileSchema,
    output: doneSchema,
    right: 'read',
    topics: ['programme'],
  },
  getSetUp: { method: 'GET', path: '/set-up', output: programme.setUpSchema, ...own },
  changeProgramme: {
    ...{ method: 'PATCH', path: '/set-up', input: programme.changeProgrammeSchema, output: doneSchema },
    ...{ right: 'set up the programme', topics: ['programme', 'cycles'] },
  },
  createProgramme: {
    ...{ method: 'POST', path: '/set-up/programmes', input: programme.createProgrammeSchema, output: z.object({ key: z.string() }) },
    ...own,
  },
  getHistory: {
    ...{ method: 'GET', path: '/set-up/history', input: programme.historyQuerySchema, output: programme.historyViewSchema },
    ...{ right: 'read the history', topics: ['programme'] },
  },
  listMails: { method: 'GET', path: '/set-up/mails', output: programme.mailBoxSchema, ...own },
  listHolidays: {
    ...{ method: 'GET', path: '/set-up/holidays', input: programme.holidaysQuerySchema, output: programme.holidaysSchema },
    ...{ right: 'read', topics: [] },
  },
  addApplication: {
    ...{ method: 'POST', path: '/set-up/applications', input: programme.saveApplicationSchema, output: madeSchema<'application'>() },
    ...own,
  },
  saveApplication: {
    ...{ method: 'PUT', path: '/set-up/applications/:id', params: idOf<'application'>(), input: programme.saveApplicationSchema },
    ...{ output: madeSchema<'application'>(), ...own },
  },
  removeApplication: { method: 'DELETE', path: '/set-up/applications/:id', params: idOf<'application'>(), output: doneSchema, ...own },
  addEnvironment: {
    ...{ method: 'POST', path: '/set-up/environments', input: programme.saveEnvironmentSchema, output: madeSchema<'environment'>() },
    ...own,
  },
  saveEnvironment: {
    ...{ method: 'PUT', path: '/set-up/environments/:id', params: idOf<'environment'>(), input: programme.saveEnvironmentSchema },
    ...{ output: madeSchema<'environment'>(), ...own },
  },
  removeEnvironment: { method: 'DELETE', path: '/set-up/environments/:id', params: idOf<'environment'>(), output: doneSchema, ...own },
  addTeam: { method: 'POST', path: '/set-up/teams', input: programme.saveTeamSchema, output: madeSchema<'team'>(), ...own },
  saveTeam: {
    ...{ method: 'PUT', path: '/set-up/teams/:id', params: idOf<'team'>(), input: programme.saveTeamSchema, output: madeSchema<'team'>() },
    ...own,
  },
  removeTeam: { method: 'DELETE', path: '/set-up/teams/:id', params: idOf<'team'>(), output: doneSchema, ...own },
  invitePeople: { method: 'POST', path: '/set-up/people', input: programme.inviteSchema, output: programme.invitedSchema, ...own },
  savePerson: {
    ...{ method: 'PUT', path: '/set-up/people/:id', params: idOf<'person'>(), input: programme.savePersonSchema, output: doneSchema },
    ...{ right: 'set up the programme', topics: ['programme', 'cycles'] },
  },
  leaveProgramme: {
    ...{
      method: 'DELETE',
      path: '/set-up/people/:id',
      params: idOf<'person'>(),
      input: programme.leaveSchema,
      output: programme.leftSchema,
    },
    ...{ right: 'set up the programme', topics: ['programme', 'turns', 'defects'] },
  },
  sendPasswordLink: { method: 'POST', path: '/set-up/people/:id/password-link', params: idOf<'person'>(), output: doneSchema, ...own },
  revokeInvitation: { method: 'DELETE', path: '/set-up/invitations/:id', params: idOf<'invitation'>(), output: doneSchema, ...own },
});
