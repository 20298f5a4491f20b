import { pgEnum } from 'drizzle-orm/pg-core';
import { PRIORITIES } from '@kindred-baton/core/values/priority';

export const priority = pgEnum('priority', PRIORITIES);
