import type { OpenDoor } from '@kindred-baton/doors/door';
import type { SealedDoor } from '@kindred-baton/store/doors/sealed-door';
import { openSecret } from '../../secrets.ts';

export const openDoor = ({ secret, place, ...door }: SealedDoor): OpenDoor => ({
  ...door,
  secret: secret ? openSecret(secret, place) : '',
});
