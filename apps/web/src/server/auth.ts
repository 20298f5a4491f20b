import { randomUUID } from 'node:crypto';
import { sendPasswordLetter } from '@kindred-baton/store/mails/send-password-letter';
import { accounts, people, rateLimits, sessions, verifications } from '@kindred-baton/store/schema/people';
import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { getConfig } from './config.ts';
import { getStore } from './store.ts';

/** The address as our own server saw it; what a client claims in forwarding headers is dropped there. */
const CLIENT_ADDRESS_HEADER = 'x-kindred-baton-client';

const PORTS = ['http://127.0.0.1:*', 'http://localhost:*', 'http://[::1]:*'];
const HOUR_SECONDS = 3_600;
const WEEK_SECONDS = 7 * 24 * 3_600;

function createAuth() {
  const config = getConfig();
  return betterAuth({
    secret: config.KINDRED_BATON_SECRET,
    baseURL: { allowedHosts: ['127.0.0.1:*', 'localhost:*', '[::1]:*'] },
    database: drizzleAdapter(getStore().db, {
      provider: 'pg',
      schema: { user: people, session: sessions, account: accounts, verification: verifications, rateLimit: rateLimits },
    }),
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      sendResetPassword: ({ user, token }) => sendPasswordLetter(getStore(), user, token),
      resetPasswordTokenExpiresIn: HOUR_SECONDS,
      revokeSessionsOnPasswordReset: true,
    },
    session: { expiresIn: WEEK_SECONDS },
    trustedOrigins: PORTS,
    rateLimit: {
      enabled: true,
      storage: 'database',
      customRules: {
        '/sign-in/email': { window: 60, max: config.KINDRED_BATON_SIGN_INS_A_MINUTE },
        '/request-password-reset': { window: 60, max: 3 },
        '/reset-password': { window: 60, max: 5 },
      },
    },
    advanced: {
      database: { generateId: () => randomUUID() },
      ipAddress: { ipAddressHeaders: [CLIENT_ADDRESS_HEADER] },
      cookiePrefix: 'kindred-baton',
    },
    telemetry: { enabled: false },
  });
}

let auth: ReturnType<typeof createAuth> | undefined;

export function getAuth(): ReturnType<typeof createAuth> {
  auth ??= createAuth();
  return auth;
}
