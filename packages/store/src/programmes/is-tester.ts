import { arrayContains } from 'drizzle-orm';
import { members } from '../schema/programmes.ts';

/** Turns are given out only to those who test; whoever else may make attempts is given one by hand. */
export const isTester = arrayContains(members.roles, ['tester']);
