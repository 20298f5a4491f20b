import type { Answer } from '@kindred-baton/core/doors/answer';
import type { Question } from '@kindred-baton/core/doors/read-question';
import { askDatabase } from './ask-database.ts';
import { askInterface } from './ask-interface.ts';
import type { OpenDoor } from './door.ts';

/** Asks a door once. Throws NoAnswer, with a sentence that holds no secret. */
export const askDoor = (door: OpenDoor, question: Question): Promise<Answer> =>
  question.kind === 'interface' ? askInterface(door, question) : askDatabase(door, question);
