import type { Actor } from '@kindred-baton/store/actor';
import { printDay } from '@kindred-baton/core/time/calendar';
import type { DocumentHead } from '@kindred-baton/formats/documents/write-page';
import { readFont } from './read-font.ts';

interface Asked {
  readonly actor: Pick<Actor, 'programmeName' | 'timeZone'>;
  /** With `paper`: Letter, or A4 where nothing is said. */
  readonly url: URL;
}

/** What every document that is printed says of itself. */
export const toHead = ({ actor, url }: Asked, title: string): DocumentHead => ({
  ...{ title, programme: actor.programmeName, day: printDay(Date.now(), actor.timeZone), font: readFont() },
  paper: url.searchParams.get('paper') === 'Letter' ? 'Letter' : 'A4',
});
