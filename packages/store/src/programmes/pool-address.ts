import { randomUUID } from 'node:crypto';

/** The address of a pool leads nowhere (RFC 2606), and nobody signs in with it. */
export const POOL_ADDRESS = '@pool.invalid';

export const createPoolAddress = (): string => `${randomUUID()}${POOL_ADDRESS}`;
