import { DONE } from '@kindred-baton/contracts/common';
import type { doorRoutes } from '@kindred-baton/contracts/doors/routes';
import { getSealedDoor, listDoors, removeDoor, saveDoor } from '@kindred-baton/store/doors/doors';
import { doAside } from '../../aside/do-aside.ts';
import type { Answers } from '../../call.ts';
import { sealSecret } from '../../secrets.ts';
import { openDoor } from './open-door.ts';

export const doorAnswers: Answers<typeof doorRoutes> = {
  listDoors: ({ ask }) => ask(listDoors, undefined),
  addDoor: ({ perform, input }) => perform(saveDoor, { id: null, save: input, seal: sealSecret }),
  saveDoor: ({ perform, params, input }) => perform(saveDoor, { id: params.door, save: input, seal: sealSecret }),
  removeDoor: async ({ perform, params }) => {
    await perform(removeDoor, { id: params.door });
    return DONE;
  },
  tryDoor: async ({ ask, params }) => doAside('try door', openDoor(await ask(getSealedDoor, params.door))),
};
