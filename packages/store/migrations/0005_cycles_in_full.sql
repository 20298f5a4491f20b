CREATE TYPE "public"."leftover_way" AS ENUM('next cycle', 'dropped');--> statement-breakpoint
CREATE TABLE "absences" (
	"programme_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"first_day" date NOT NULL,
	"last_day" date NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "absences_programme_id_person_id_first_day_pk" PRIMARY KEY("programme_id","person_id","first_day"),
	CONSTRAINT "absences_days" CHECK ("absences"."first_day" <= "absences"."last_day")
);
--> statement-breakpoint
CREATE TABLE "cycle_environments" (
	"cycle_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"environment_id" uuid NOT NULL,
	CONSTRAINT "cycle_environments_cycle_id_application_id_pk" PRIMARY KEY("cycle_id","application_id")
);
--> statement-breakpoint
CREATE TABLE "defect_words" (
	"id" uuid PRIMARY KEY NOT NULL,
	"defect_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"text" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "defect_words_text" CHECK ("defect_words"."text" <> '')
);
--> statement-breakpoint
CREATE TABLE "invitations" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"roles" text[] NOT NULL,
	"team_ids" uuid[] DEFAULT '{}' NOT NULL,
	"token_hash" text NOT NULL,
	"invited_by" uuid NOT NULL,
	"invited_at" timestamp with time zone DEFAULT now() NOT NULL,
	"accepted_at" timestamp with time zone,
	CONSTRAINT "invitations_tokenHash_unique" UNIQUE("token_hash"),
	CONSTRAINT "invitations_programmeId_email_unique" UNIQUE("programme_id","email"),
	CONSTRAINT "invitations_roles" CHECK (cardinality("invitations"."roles") > 0 and "invitations"."roles" <@ array['administrator', 'lead', 'author', 'tester', 'owner', 'observer'])
);
--> statement-breakpoint
CREATE TABLE "mails" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"to" text NOT NULL,
	"to_name" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone,
	"failures" integer DEFAULT 0 NOT NULL,
	"problem" text DEFAULT '' NOT NULL,
	"next_try_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "mails_to" CHECK ("mails"."to" <> '')
);
--> statement-breakpoint
CREATE TABLE "nudges" (
	"id" uuid PRIMARY KEY NOT NULL,
	"turn_id" uuid NOT NULL,
	"from_id" uuid NOT NULL,
	"to_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "programmes" DROP CONSTRAINT "programmes_key";--> statement-breakpoint
ALTER TABLE "attempts" ALTER COLUMN "version_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "is_from_sheet" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "cycles" ADD COLUMN "rules" jsonb DEFAULT '{"onlyAgreedScenarios":false,"openLegs":"refused","evidence":"none","failure":[],"retestBy":"anybody of the lane","laneMayRecord":false,"exit":[{"kind":"run share","least":1},{"kind":"pass share","least":0.95},{"kind":"open defects","severity":"major","most":0},{"kind":"critical nodes signed off"}]}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "cycles" ADD COLUMN "documents" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "defects" ADD COLUMN "persona" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "defects" ADD COLUMN "assignee_id" uuid;--> statement-breakpoint
ALTER TABLE "defects" ADD COLUMN "due_on" date;--> statement-breakpoint
ALTER TABLE "defects" ADD COLUMN "links" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "notices" jsonb DEFAULT '{"baton":true,"fixed":true,"nudge":true,"digest":false}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "feed_token" text;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "digest_on" date;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "cycle_scheme" text DEFAULT '{purpose}-9' NOT NULL;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "defect_hook" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "hooked_up_to" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "hook_problem" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "left_to" "leftover_way";--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "left_reason" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD COLUMN "criteria" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD COLUMN "open_defects" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD COLUMN "reservations" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "team_members" ADD COLUMN "hours_per_day" real;--> statement-breakpoint
ALTER TABLE "teams" ADD COLUMN "holiday_region" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "wait_days" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "bare" jsonb;--> statement-breakpoint
ALTER TABLE "absences" ADD CONSTRAINT "absences_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "absences" ADD CONSTRAINT "absences_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycle_environments" ADD CONSTRAINT "cycle_environments_cycle_id_cycles_id_fk" FOREIGN KEY ("cycle_id") REFERENCES "public"."cycles"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycle_environments" ADD CONSTRAINT "cycle_environments_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycle_environments" ADD CONSTRAINT "cycle_environments_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_words" ADD CONSTRAINT "defect_words_defect_id_defects_id_fk" FOREIGN KEY ("defect_id") REFERENCES "public"."defects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_words" ADD CONSTRAINT "defect_words_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_invited_by_people_id_fk" FOREIGN KEY ("invited_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mails" ADD CONSTRAINT "mails_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nudges" ADD CONSTRAINT "nudges_turn_id_turns_id_fk" FOREIGN KEY ("turn_id") REFERENCES "public"."turns"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nudges" ADD CONSTRAINT "nudges_from_id_people_id_fk" FOREIGN KEY ("from_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nudges" ADD CONSTRAINT "nudges_to_id_people_id_fk" FOREIGN KEY ("to_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "defect_words_defect_id_at_index" ON "defect_words" USING btree ("defect_id","at");--> statement-breakpoint
CREATE INDEX "mails_to_send" ON "mails" USING btree ("next_try_at") WHERE "mails"."sent_at" is null;--> statement-breakpoint
CREATE INDEX "nudges_turn_id_index" ON "nudges" USING btree ("turn_id");--> statement-breakpoint
CREATE INDEX "nudges_to_id_index" ON "nudges" USING btree ("to_id");--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_assignee_id_people_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_feedToken_unique" UNIQUE("feed_token");--> statement-breakpoint
ALTER TABLE "programmes" ADD CONSTRAINT "programmes_key" CHECK ("programmes"."key" ~ '^[a-z][a-z0-9-]*$' and "programmes"."key" not in ('api', 'sign-in', 'begin', 'invitation', 'calendar'));--> statement-breakpoint
ALTER TABLE "team_members" ADD CONSTRAINT "team_members_hours" CHECK ("team_members"."hours_per_day" > 0 and "team_members"."hours_per_day" <= 24);