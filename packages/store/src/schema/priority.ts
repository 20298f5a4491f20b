import { pgEnum } from 'drizzle-orm/pg-core';
import { PRIORITIES } from '@kindred-baton/core/defects/defect';

export const priority = pgEnum('priority', PRIORITIES);
