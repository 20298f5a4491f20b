import { DONE } from '@kindred-baton/contracts/common';
import type { programmeRoutes } from '@kindred-baton/contracts/programmes/routes';
import { askForPassword } from '@kindred-baton/store/mails/send-password-letter';
import { invitePeople, leaveProgramme, revokeInvitation, savePerson } from '@kindred-baton/store/programmes/change-people';
import {
  changeProgramme,
  createProgramme,
  removeApplication,
  removeEnvironment,
  removeTeam,
  saveApplication,
  saveEnvironment,
  saveTeam,
} from '@kindred-baton/store/programmes/change-programme';
import { getHistory, getSetUp, listMails } from '@kindred-baton/store/programmes/get-set-up';
import { getChoices } from '@kindred-baton/store/programmes/get-viewer';
import { getProfile, saveProfile } from '@kindred-baton/store/programmes/profile';
import type { Answers } from '../../call.ts';
import { followChanges } from './follow-changes.ts';
import { listHolidays } from './list-holidays.ts';
import { getAuth } from '../../auth.ts';

export const programmeAnswers: Answers<typeof programmeRoutes> = {
  getChoices: ({ ask }) => ask(getChoices, undefined),
  followChanges,
  getProfile: ({ ask }) => ask(getProfile, undefined),
  saveProfile: ({ perform, input }) => perform(saveProfile, input),
  getSetUp: ({ ask }) => ask(getSetUp, undefined),
  changeProgramme: ({ perform, input }) => perform(changeProgramme, input),
  createProgramme: ({ perform, input }) => perform(createProgramme, input),
  getHistory: ({ ask, input }) => ask(getHistory, input),
  listMails: ({ ask }) => ask(listMails, undefined),
  listHolidays: ({ input }) => Promise.resolve(listHolidays(input)),
  addApplication: ({ perform, input }) => perform(saveApplication, { id: null, ...input }),
  saveApplication: ({ perform, params, input }) => perform(saveApplication, { ...params, ...input }),
  removeApplication: ({ perform, params }) => perform(removeApplication, params.id),
  addEnvironment: ({ perform, input }) => perform(saveEnvironment, { id: null, ...input }),
  saveEnvironment: ({ perform, params, input }) => perform(saveEnvironment, { ...params, ...input }),
  removeEnvironment: ({ perform, params }) => perform(removeEnvironment, params.id),
  addTeam: ({ perform, input }) => perform(saveTeam, { id: null, team: input }),
  saveTeam: ({ perform, params, input }) => perform(saveTeam, { ...params, team: input }),
  removeTeam: ({ perform, params }) => perform(removeTeam, params.id),
  invitePeople: ({ perform, input }) => perform(invitePeople, input),
  savePerson: ({ perform, params, input }) => perform(savePerson, { personId: params.id, person: input }),
  leaveProgramme: ({ perform, params, input }) => perform(leaveProgramme, { personId: params.id, ...input }),
  sendPasswordLink: async ({ perform, params, request }) => {
    const { email } = await perform(askForPassword, params.id);
    await getAuth().api.requestPasswordReset({ body: { email }, headers: request.headers });
    return DONE;
  },
  revokeInvitation: async ({ perform, params }) => {
    await perform(revokeInvitation, params.id);
    return DONE;
  },
};
