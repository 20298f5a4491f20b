import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { z } from 'zod';
import type { Right, Role } from '@kindred-baton/core/programmes/roles';
import { ROLES } from '@kindred-baton/core/programmes/roles';
import { NOTICES } from '@kindred-baton/core/programmes/notices';
import type { Notice } from '@kindred-baton/core/programmes/notices';
import { addressSchema, daySchema, idSchema, momentSchema, nameSchema, namedSchema, personSchema } from '../common.ts';

/** Who is looking, in which programme, and what the screens may offer. The server checks each request all the same. */
export interface Viewer {
  readonly person: z.infer<typeof personSchema>;
  readonly roles: Role[];
  readonly rights: Right[];
  readonly programme: {
    readonly key: string;
    readonly name: string;
    readonly timeZone: string;
    readonly levels: string[];
    readonly severityNames: SeverityNames;
    readonly isDemo: boolean;
  };
  readonly programmes: { readonly key: string; readonly name: string }[];
}

/** What forms offer to choose from. */
export const choicesSchema = z.object({
  teams: z.array(namedSchema.extend({ colour: z.string() })),
  applications: z.array(namedSchema),
  environments: z.array(namedSchema),
  people: z.array(personSchema),
});
export type Choices = z.infer<typeof choicesSchema>;

const severityNamesSchema = z.partialRecord(z.enum(SEVERITIES), z.string().trim().max(60, 'A severity has at most 60 signs.'));

/** All that a programme is set up from. */
export const setUpSchema = z.object({
  programme: z.object({
    ...{ key: z.string(), name: z.string(), timeZone: z.string(), levels: z.array(z.string()), codeScheme: z.array(z.string()) },
    ...{ cycleScheme: z.string(), defectPrefix: z.string(), defectHook: z.string(), hookProblem: z.string() },
    severityNames: severityNamesSchema,
    namesTesters: z.boolean(),
  }),
  applications: z.array(z.object({ id: idSchema<'application'>(), name: z.string(), uses: z.int() })),
  environments: z.array(
    z.object({ id: idSchema<'environment'>(), name: z.string(), uses: z.int(), addresses: z.record(z.string(), z.string()) }),
  ),
  teams: z.array(
    z.object({
      ...{ id: idSchema<'team'>(), name: z.string(), colour: z.string(), workingDays: z.array(z.int()), hoursPerDay: z.number() },
      ...{ holidays: z.array(z.string()), holidayRegion: z.string(), people: z.int(), uses: z.int() },
    }),
  ),
  people: z.array(
    z.object({
      ...{ id: idSchema<'person'>(), name: z.string(), email: z.string(), roles: z.array(z.enum(ROLES)) },
      teams: z.array(z.object({ id: idSchema<'team'>(), hoursPerDay: z.number().nullable() })),
      absences: z.array(z.object({ firstDay: z.string(), lastDay: z.string(), note: z.string() })),
      leftAt: momentSchema.nullable(),
      /** Turns with her that are not through, in cycles that are not closed. */
      turns: z.int(),
    }),
  ),
  invitations: z.array(
    z.object({
      id: idSchema<'invitation'>(),
      name: z.string(),
      email: z.string(),
      roles: z.array(z.enum(ROLES)),
      invitedBy: z.string(),
      invitedAt: momentSchema,
    }),
  ),
  /** What the order of the work asks for next: how much there is of each. */
  counts: z.object({ nodes: z.int(), owners: z.int(), tests: z.int(), scenarios: z.int(), cycles: z.int() }),
});
export type SetUp = z.infer<typeof setUpSchema>;

/** First parts of addresses that are no programme’s. */
const TAKEN_KEYS = new Set(['api', 'sign-in', 'begin', 'invitation', 'calendar', 'password', 'shown', 'away', '404', '500']);
const keySchema = z
  .string()
  .trim()
  .regex(/^[a-z][a-z0-9-]{1,39}$/, 'The address has small letters, digits and hyphens, begins with a letter, and has 2 to 40 characters.')
  .refine((key) => !TAKEN_KEYS.has(key), 'That address is used by Kindred Baton itself. Choose another.');
const timeZoneSchema = z.string().refine(isTimeZone, 'That is no time zone; write it like Europe/London.');

function isTimeZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    // What is thrown for an unknown zone says no more than that it is unknown.
    return false;
  }
}

export const createProgrammeSchema = z.object({
  key: keySchema,
  name: nameSchema,
  timeZone: timeZoneSchema,
  levels: z.array(nameSchema).min(2, 'A map has at least two levels.').max(6, 'A map has at most six levels.'),
});
export type CreateProgramme = z.infer<typeof createProgrammeSchema>;

export const changeProgrammeSchema = z.object({
  name: nameSchema.optional(),
  timeZone: timeZoneSchema.optional(),
  cycleScheme: z.string().trim().max(40).optional(),
  defectPrefix: z
    .string()
    .trim()
    .regex(/^[A-Za-z][A-Za-z0-9]{0,9}$/, 'A prefix has letters and digits, ten at most.')
    .optional(),
  defectHook: z.union([z.literal(''), addressSchema]).optional(),
  severityNames: severityNamesSchema.optional(),
  namesTesters: z.boolean().optional(),
});
export type ChangeProgramme = z.infer<typeof changeProgrammeSchema>;

export const saveApplicationSchema = z.object({ name: nameSchema });
export const saveEnvironmentSchema = z.object({
  name: nameSchema,
  /** By application; an empty address takes it away. */
  addresses: z.record(z.uuid(), z.union([z.literal(''), addressSchema])),
});
export type SaveEnvironment = z.infer<typeof saveEnvironmentSchema>;

export const saveTeamSchema = z.object({
  name: nameSchema,
  colour: z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written like #4C6FA5.'),
  workingDays: z.array(z.int().min(1).max(7)).min(1, 'A team works on one day of the week at least.'),
  hoursPerDay: z.number().gt(0, 'More than no hours.').max(24, 'A day has 24 hours.'),
  holidays: z.array(daySchema).max(1_000),
  holidayRegion: z.string().max(20),
});
export type SaveTeam = z.infer<typeof saveTeamSchema>;

export const savePersonSchema = z.object({
  roles: z.array(z.enum(ROLES)).min(1, 'Choose at least one role.'),
  teams: z.array(z.object({ id: idSchema<'team'>(), hoursPerDay: z.number().gt(0).max(24).nullable() })),
  absences: z
    .array(
      z
        .object({ firstDay: daySchema, lastDay: daySchema, note: z.string().trim().max(500).default('') })
        .refine(({ firstDay, lastDay }) => firstDay <= lastDay, 'An absence ends before it begins.'),
    )
    .max(200),
});
export type SavePerson = z.infer<typeof savePersonSchema>;

export const inviteSchema = z.object({
  people: z
    .array(
      z.object({
        name: nameSchema,
        email: z.email('That is no mail address.').transform((email) => email.toLowerCase()),
        roles: z.array(z.enum(ROLES)).min(1),
        teamIds: z.array(idSchema<'team'>()),
      }),
    )
    .min(1, 'Name at least one person.')
    .max(500),
});
export type Invite = z.infer<typeof inviteSchema>;

export const invitedSchema = z.object({ invited: z.int(), added: z.int(), known: z.array(z.string()) });

export const leaveSchema = z.object({ handTo: idSchema<'person'>().nullable() });
export const leftSchema = z.object({ handedOver: z.int(), ended: z.int() });

/** Oneself in a programme. */
export const profileSchema = z.object({
  ...{ name: z.string(), email: z.string(), roles: z.array(z.enum(ROLES)), teams: z.array(z.string()) },
  notices: z.object(Object.fromEntries(NOTICES.map((notice) => [notice, z.boolean()])) as Record<Notice, z.ZodBoolean>),
  /** The path of her calendar; null: she has not asked for one. */
  feed: z.string().nullable(),
});
export type Profile = z.infer<typeof profileSchema>;

export const saveProfileSchema = z.object({
  name: nameSchema.optional(),
  notices: profileSchema.shape.notices.optional(),
  feed: z.enum(['new', 'none']).optional(),
});
export type SaveProfile = z.infer<typeof saveProfileSchema>;

export const historyQuerySchema = z.object({
  person: idSchema<'person'>().optional(),
  subject: z.string().max(40).optional(),
  before: z.coerce.number().int().optional(),
});
export type HistoryQuery = z.infer<typeof historyQuerySchema>;

export const historyViewSchema = z.object({
  lines: z.array(
    z.object({
      id: z.int(),
      at: momentSchema,
      by: z.string().nullable(),
      subject: z.string(),
      /** Of what it is about: a code, a title, a name. */
      name: z.string(),
      action: z.string(),
      details: z.string(),
    }),
  ),
  hasMore: z.boolean(),
});
export type HistoryView = z.infer<typeof historyViewSchema>;

export const mailBoxSchema = z.object({
  mails: z.array(
    z.object({
      id: idSchema<'mail'>(),
      to: z.string(),
      toName: z.string(),
      subject: z.string(),
      at: momentSchema,
      sentAt: momentSchema.nullable(),
      failures: z.int(),
      problem: z.string(),
    }),
  ),
});

export const holidaysQuerySchema = z.object({
  region: z.string().regex(/^[A-Za-z]{2}(-[A-Za-z0-9]{1,3})?$/, 'Write a country, or a country and its region: GB, DE-BY.'),
  from: daySchema,
  to: daySchema,
});
export type HolidaysQuery = z.infer<typeof holidaysQuerySchema>;

export const holidaysSchema = z.object({ holidays: z.array(z.object({ day: z.string(), name: z.string() })) });
export type Holidays = z.infer<typeof holidaysSchema>;

const passwordSchema = z.string().min(8, 'A password has at least 8 characters.').max(128, 'A password has at most 128 characters.');
export const acceptInvitationSchema = z.object({ name: nameSchema, password: passwordSchema });

export const beginSchema = z.object({
  name: nameSchema,
  email: z.email('That is no mail address.').transform((email) => email.toLowerCase()),
  password: passwordSchema,
  programme: nameSchema,
  timeZone: timeZoneSchema,
});
