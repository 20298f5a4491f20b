import { DONE } from '@kindred-baton/contracts/common';
import type { personaRoutes } from '@kindred-baton/contracts/personas/routes';
import { listPersonas, removePersona, savePersona } from '@kindred-baton/store/personas/personas';
import { sealSecret } from '../../secrets.ts';
import type { Answers } from '../../call.ts';

export const personaAnswers: Answers<typeof personaRoutes> = {
  listPersonas: ({ ask }) => ask(listPersonas, undefined),
  addPersona: ({ perform, input }) => perform(savePersona, { id: null, save: input, seal: sealSecret }),
  savePersona: ({ perform, params, input }) => perform(savePersona, { id: params.persona, save: input, seal: sealSecret }),
  removePersona: async ({ perform, params }) => {
    await perform(removePersona, { id: params.persona });
    return DONE;
  },
};
