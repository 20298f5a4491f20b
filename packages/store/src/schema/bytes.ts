import { customType } from 'drizzle-orm/pg-core';

/** A column of bytes (bytea). */
export const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' });
