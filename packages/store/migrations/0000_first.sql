CREATE TYPE "public"."cycle_purpose" AS ENUM('integration', 'acceptance', 'regression', 'smoke');--> statement-breakpoint
CREATE TYPE "public"."cycle_state" AS ENUM('planning', 'open', 'closing', 'closed');--> statement-breakpoint
CREATE TYPE "public"."defect_kind" AS ENUM('function', 'data', 'access', 'display', 'text', 'speed', 'test');--> statement-breakpoint
CREATE TYPE "public"."defect_status" AS ENUM('new', 'accepted', 'fixed', 'retested', 'closed', 'declined');--> statement-breakpoint
CREATE TYPE "public"."outcome" AS ENUM('passed', 'failed', 'blocked', 'skipped', 'not run');--> statement-breakpoint
CREATE TYPE "public"."priority" AS ENUM('high', 'medium', 'low');--> statement-breakpoint
CREATE TYPE "public"."requirement_kind" AS ENUM('business', 'functional', 'performance', 'acceptance');--> statement-breakpoint
CREATE TYPE "public"."run_outcome" AS ENUM('failed', 'blocked', 'passed', 'under way', 'not run', 'skipped');--> statement-breakpoint
CREATE TYPE "public"."scenario_state" AS ENUM('sketch', 'agreed', 'retired');--> statement-breakpoint
CREATE TYPE "public"."severity" AS ENUM('critical', 'major', 'minor', 'trivial');--> statement-breakpoint
CREATE TYPE "public"."sign_off_decision" AS ENUM('accepted', 'accepted with reservations', 'refused');--> statement-breakpoint
CREATE TYPE "public"."step_outcome" AS ENUM('passed', 'failed', 'blocked', 'skipped');--> statement-breakpoint
CREATE TYPE "public"."turn_state" AS ENUM('waiting', 'ready', 'under way', 'done');--> statement-breakpoint
CREATE TYPE "public"."turn_status" AS ENUM('passed', 'failed', 'blocked', 'skipped', 'under way', 'ready', 'waiting', 'held');--> statement-breakpoint
CREATE TYPE "public"."version_state" AS ENUM('draft', 'agreed', 'retired');--> statement-breakpoint
CREATE TABLE "accounts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" uuid NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "applications" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "applications_programmeId_name_unique" UNIQUE("programme_id","name")
);
--> statement-breakpoint
CREATE TABLE "attempts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"turn_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"person_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"finished_at" timestamp with time zone,
	"outcome" "step_outcome",
	"kept" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"environment" text NOT NULL,
	"browser" text DEFAULT '' NOT NULL,
	CONSTRAINT "attempts_turnId_number_unique" UNIQUE("turn_id","number"),
	CONSTRAINT "attempts_finished" CHECK (("attempts"."finished_at" is null) = ("attempts"."outcome" is null))
);
--> statement-breakpoint
CREATE TABLE "cycles" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" "cycle_state" DEFAULT 'planning' NOT NULL,
	"purpose" "cycle_purpose" NOT NULL,
	"environment_id" uuid NOT NULL,
	"owner_id" uuid,
	"starts_on" date NOT NULL,
	"ends_on" date NOT NULL,
	"opened_at" timestamp with time zone,
	"closed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "cycles_programmeId_code_unique" UNIQUE("programme_id","code"),
	CONSTRAINT "cycles_dates" CHECK ("cycles"."starts_on" <= "cycles"."ends_on"),
	CONSTRAINT "cycles_opened" CHECK (("cycles"."state" = 'planning') = ("cycles"."opened_at" is null)),
	CONSTRAINT "cycles_closed" CHECK (("cycles"."state" = 'closed') = ("cycles"."closed_at" is not null))
);
--> statement-breakpoint
CREATE TABLE "defect_turns" (
	"defect_id" uuid NOT NULL,
	"turn_id" uuid NOT NULL,
	CONSTRAINT "defect_turns_defect_id_turn_id_pk" PRIMARY KEY("defect_id","turn_id")
);
--> statement-breakpoint
CREATE TABLE "defects" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"kind" "defect_kind" NOT NULL,
	"severity" "severity" NOT NULL,
	"priority" "priority" NOT NULL,
	"status" "defect_status" DEFAULT 'new' NOT NULL,
	"team_id" uuid,
	"cycle_id" uuid NOT NULL,
	"attempt_id" uuid,
	"step_index" integer NOT NULL,
	"expected" text NOT NULL,
	"seen" text NOT NULL,
	"steps" jsonb NOT NULL,
	"environment" text NOT NULL,
	"browser" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"found_by" uuid NOT NULL,
	"found_at" timestamp with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "defects_programmeId_number_unique" UNIQUE("programme_id","number"),
	CONSTRAINT "defects_title" CHECK ("defects"."title" <> ''),
	CONSTRAINT "defects_declined" CHECK ("defects"."status" <> 'declined' or "defects"."reason" <> '')
);
--> statement-breakpoint
CREATE TABLE "environments" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "environments_programmeId_name_unique" UNIQUE("programme_id","name")
);
--> statement-breakpoint
CREATE TABLE "evidence" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"attempt_id" uuid NOT NULL,
	"step_index" integer NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"size" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"added_by" uuid NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "evidence_size" CHECK ("evidence"."size" between 1 and 10485760)
);
--> statement-breakpoint
CREATE TABLE "history" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"subject" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"action" text NOT NULL,
	"details" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"person_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "installations" (
	"environment_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"address" text NOT NULL,
	CONSTRAINT "installations_environment_id_application_id_pk" PRIMARY KEY("environment_id","application_id")
);
--> statement-breakpoint
CREATE TABLE "legs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"scenario_id" uuid NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"test_id" uuid,
	"title" text,
	"team_id" uuid,
	"after" jsonb,
	"wires" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"wait_days" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "legs_test_or_title" CHECK ("legs"."test_id" is not null or coalesce("legs"."title", '') <> ''),
	CONSTRAINT "legs_wait" CHECK ("legs"."wait_days" between 0 and 366)
);
--> statement-breakpoint
CREATE TABLE "members" (
	"programme_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"roles" text[] NOT NULL,
	CONSTRAINT "members_programme_id_person_id_pk" PRIMARY KEY("programme_id","person_id"),
	CONSTRAINT "members_roles" CHECK (cardinality("members"."roles") > 0 and "members"."roles" <@ array['administrator', 'lead', 'author', 'tester', 'owner', 'observer'])
);
--> statement-breakpoint
CREATE TABLE "nodes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"parent_id" uuid,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"team_id" uuid,
	"application_id" uuid,
	"owner_id" uuid,
	"is_critical" boolean DEFAULT false NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "nodes_programmeId_code_unique" UNIQUE("programme_id","code"),
	CONSTRAINT "nodes_parent" CHECK ("nodes"."parent_id" is distinct from "nodes"."id"),
	CONSTRAINT "nodes_texts" CHECK ("nodes"."code" <> '' and "nodes"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "people_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "programmes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"time_zone" text NOT NULL,
	"levels" text[] NOT NULL,
	"defect_prefix" text NOT NULL,
	"next_defect" integer DEFAULT 1 NOT NULL,
	"is_demo" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "programmes_key_unique" UNIQUE("key"),
	CONSTRAINT "programmes_levels" CHECK (cardinality("programmes"."levels") between 2 and 6),
	CONSTRAINT "programmes_key" CHECK ("programmes"."key" ~ '^[a-z][a-z0-9-]*$' and "programmes"."key" not in ('api', 'sign-in'))
);
--> statement-breakpoint
CREATE TABLE "rate_limits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"count" integer NOT NULL,
	"last_request" bigint NOT NULL,
	CONSTRAINT "rate_limits_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "requirement_tests" (
	"requirement_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	CONSTRAINT "requirement_tests_requirement_id_test_id_pk" PRIMARY KEY("requirement_id","test_id")
);
--> statement-breakpoint
CREATE TABLE "requirements" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"node_id" uuid,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"kind" "requirement_kind" NOT NULL,
	"priority" "priority" DEFAULT 'medium' NOT NULL,
	CONSTRAINT "requirements_programmeId_code_unique" UNIQUE("programme_id","code")
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"cycle_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"scenario_id" uuid NOT NULL,
	"row_id" uuid,
	"row_name" text,
	"values" jsonb NOT NULL,
	"priority" "priority" DEFAULT 'medium' NOT NULL,
	"outcome" "run_outcome" DEFAULT 'not run' NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "runs_cycleId_number_unique" UNIQUE("cycle_id","number")
);
--> statement-breakpoint
CREATE TABLE "scenario_rows" (
	"id" uuid PRIMARY KEY NOT NULL,
	"scenario_id" uuid NOT NULL,
	"name" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"values" jsonb NOT NULL,
	CONSTRAINT "scenario_rows_scenarioId_name_unique" UNIQUE("scenario_id","name")
);
--> statement-breakpoint
CREATE TABLE "scenarios" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"node_id" uuid NOT NULL,
	"state" "scenario_state" DEFAULT 'sketch' NOT NULL,
	"priority" "priority" DEFAULT 'medium' NOT NULL,
	"columns" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "scenarios_programmeId_code_unique" UNIQUE("programme_id","code"),
	CONSTRAINT "scenarios_texts" CHECK ("scenarios"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"token" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sessions_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "sign_offs" (
	"cycle_id" uuid NOT NULL,
	"node_id" uuid NOT NULL,
	"decision" "sign_off_decision" NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"figures" jsonb NOT NULL,
	"decided_by" uuid NOT NULL,
	"decided_at" timestamp with time zone NOT NULL,
	CONSTRAINT "sign_offs_cycle_id_node_id_pk" PRIMARY KEY("cycle_id","node_id"),
	CONSTRAINT "sign_offs_reason" CHECK ("sign_offs"."decision" = 'accepted' or "sign_offs"."reason" <> '')
);
--> statement-breakpoint
CREATE TABLE "step_results" (
	"attempt_id" uuid NOT NULL,
	"step_index" integer NOT NULL,
	"outcome" "step_outcome",
	"note" text DEFAULT '' NOT NULL,
	"recorded_at" timestamp with time zone NOT NULL,
	"word_id" uuid NOT NULL,
	CONSTRAINT "step_results_attempt_id_step_index_pk" PRIMARY KEY("attempt_id","step_index"),
	CONSTRAINT "step_results_index" CHECK ("step_results"."step_index" >= 0)
);
--> statement-breakpoint
CREATE TABLE "team_members" (
	"team_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "team_members_team_id_person_id_pk" PRIMARY KEY("team_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "teams" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"name" text NOT NULL,
	"colour" text NOT NULL,
	"working_days" integer[] NOT NULL,
	"hours_per_day" real NOT NULL,
	"holidays" date[] DEFAULT '{}' NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "teams_programmeId_name_unique" UNIQUE("programme_id","name"),
	CONSTRAINT "teams_hours" CHECK ("teams"."hours_per_day" > 0 and "teams"."hours_per_day" <= 24),
	CONSTRAINT "teams_days" CHECK ("teams"."working_days" <@ array[1, 2, 3, 4, 5, 6, 7])
);
--> statement-breakpoint
CREATE TABLE "test_versions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"test_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"state" "version_state" DEFAULT 'draft' NOT NULL,
	"steps" jsonb NOT NULL,
	"needs" jsonb NOT NULL,
	"gives" jsonb NOT NULL,
	"rows" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"saved_by" uuid,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	"agreed_by" uuid,
	"agreed_at" timestamp with time zone,
	CONSTRAINT "test_versions_testId_number_unique" UNIQUE("test_id","number"),
	CONSTRAINT "test_versions_agreed" CHECK (("test_versions"."state" = 'draft') = ("test_versions"."agreed_at" is null))
);
--> statement-breakpoint
CREATE TABLE "tests" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"node_id" uuid NOT NULL,
	"team_id" uuid,
	"application_id" uuid,
	"priority" "priority" DEFAULT 'medium' NOT NULL,
	"minutes" integer DEFAULT 15 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "tests_programmeId_code_unique" UNIQUE("programme_id","code"),
	CONSTRAINT "tests_minutes" CHECK ("tests"."minutes" between 1 and 10000),
	CONSTRAINT "tests_texts" CHECK ("tests"."code" <> '' and "tests"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "turns" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"cycle_id" uuid NOT NULL,
	"run_id" uuid NOT NULL,
	"index" integer NOT NULL,
	"leg_id" uuid,
	"title" text NOT NULL,
	"test_id" uuid,
	"version_id" uuid,
	"node_id" uuid NOT NULL,
	"team_id" uuid,
	"assignee_id" uuid,
	"minutes" integer NOT NULL,
	"due_on" date,
	"after" integer[] NOT NULL,
	"needs" jsonb NOT NULL,
	"state" "turn_state" DEFAULT 'waiting' NOT NULL,
	"outcome" "outcome" DEFAULT 'not run' NOT NULL,
	"status" "turn_status" DEFAULT 'waiting' NOT NULL,
	"causes" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"is_retest_due" boolean DEFAULT false NOT NULL,
	"ready_at" timestamp with time zone,
	"done_at" timestamp with time zone,
	CONSTRAINT "turns_runId_index_unique" UNIQUE("run_id","index"),
	CONSTRAINT "turns_index" CHECK ("turns"."index" >= 0 and "turns"."minutes" > 0),
	CONSTRAINT "turns_done" CHECK (("turns"."outcome" = 'not run') = ("turns"."done_at" is null))
);
--> statement-breakpoint
CREATE TABLE "verifications" (
	"id" uuid PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_user_id_people_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "applications" ADD CONSTRAINT "applications_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_turn_id_turns_id_fk" FOREIGN KEY ("turn_id") REFERENCES "public"."turns"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_version_id_test_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."test_versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycles" ADD CONSTRAINT "cycles_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycles" ADD CONSTRAINT "cycles_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycles" ADD CONSTRAINT "cycles_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_turns" ADD CONSTRAINT "defect_turns_defect_id_defects_id_fk" FOREIGN KEY ("defect_id") REFERENCES "public"."defects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_turns" ADD CONSTRAINT "defect_turns_turn_id_turns_id_fk" FOREIGN KEY ("turn_id") REFERENCES "public"."turns"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_cycle_id_cycles_id_fk" FOREIGN KEY ("cycle_id") REFERENCES "public"."cycles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_found_by_people_id_fk" FOREIGN KEY ("found_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "environments" ADD CONSTRAINT "environments_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_added_by_people_id_fk" FOREIGN KEY ("added_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "history" ADD CONSTRAINT "history_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "history" ADD CONSTRAINT "history_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "installations" ADD CONSTRAINT "installations_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "installations" ADD CONSTRAINT "installations_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_scenario_id_scenarios_id_fk" FOREIGN KEY ("scenario_id") REFERENCES "public"."scenarios"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nodes" ADD CONSTRAINT "nodes_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nodes" ADD CONSTRAINT "nodes_parent_id_nodes_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nodes" ADD CONSTRAINT "nodes_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nodes" ADD CONSTRAINT "nodes_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nodes" ADD CONSTRAINT "nodes_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_tests" ADD CONSTRAINT "requirement_tests_requirement_id_requirements_id_fk" FOREIGN KEY ("requirement_id") REFERENCES "public"."requirements"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_tests" ADD CONSTRAINT "requirement_tests_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirements" ADD CONSTRAINT "requirements_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirements" ADD CONSTRAINT "requirements_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_cycle_id_cycles_id_fk" FOREIGN KEY ("cycle_id") REFERENCES "public"."cycles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_scenario_id_scenarios_id_fk" FOREIGN KEY ("scenario_id") REFERENCES "public"."scenarios"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_row_id_scenario_rows_id_fk" FOREIGN KEY ("row_id") REFERENCES "public"."scenario_rows"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenario_rows" ADD CONSTRAINT "scenario_rows_scenario_id_scenarios_id_fk" FOREIGN KEY ("scenario_id") REFERENCES "public"."scenarios"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenarios" ADD CONSTRAINT "scenarios_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenarios" ADD CONSTRAINT "scenarios_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_user_id_people_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD CONSTRAINT "sign_offs_cycle_id_cycles_id_fk" FOREIGN KEY ("cycle_id") REFERENCES "public"."cycles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD CONSTRAINT "sign_offs_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD CONSTRAINT "sign_offs_decided_by_people_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_results" ADD CONSTRAINT "step_results_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_members" ADD CONSTRAINT "team_members_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_members" ADD CONSTRAINT "team_members_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "teams" ADD CONSTRAINT "teams_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_versions" ADD CONSTRAINT "test_versions_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_versions" ADD CONSTRAINT "test_versions_saved_by_people_id_fk" FOREIGN KEY ("saved_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_versions" ADD CONSTRAINT "test_versions_agreed_by_people_id_fk" FOREIGN KEY ("agreed_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_cycle_id_cycles_id_fk" FOREIGN KEY ("cycle_id") REFERENCES "public"."cycles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_leg_id_legs_id_fk" FOREIGN KEY ("leg_id") REFERENCES "public"."legs"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_version_id_test_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."test_versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_assignee_id_people_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "accounts_user_id_index" ON "accounts" USING btree ("user_id");--> statement-breakpoint
CREATE UNIQUE INDEX "attempts_one_under_way" ON "attempts" USING btree ("turn_id") WHERE "attempts"."finished_at" is null;--> statement-breakpoint
CREATE INDEX "defect_turns_turn_id_index" ON "defect_turns" USING btree ("turn_id");--> statement-breakpoint
CREATE INDEX "defects_cycle_id_status_index" ON "defects" USING btree ("cycle_id","status");--> statement-breakpoint
CREATE INDEX "evidence_attempt_id_index" ON "evidence" USING btree ("attempt_id");--> statement-breakpoint
CREATE INDEX "history_subject_id_id_index" ON "history" USING btree ("subject_id","id");--> statement-breakpoint
CREATE INDEX "legs_scenario_id_position_index" ON "legs" USING btree ("scenario_id","position");--> statement-breakpoint
CREATE INDEX "legs_test_id_index" ON "legs" USING btree ("test_id");--> statement-breakpoint
CREATE INDEX "members_person_id_index" ON "members" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "nodes_parent_id_index" ON "nodes" USING btree ("parent_id");--> statement-breakpoint
CREATE INDEX "requirement_tests_test_id_index" ON "requirement_tests" USING btree ("test_id");--> statement-breakpoint
CREATE INDEX "requirements_node_id_index" ON "requirements" USING btree ("node_id");--> statement-breakpoint
CREATE INDEX "runs_scenario_id_index" ON "runs" USING btree ("scenario_id");--> statement-breakpoint
CREATE INDEX "scenarios_node_id_index" ON "scenarios" USING btree ("node_id");--> statement-breakpoint
CREATE INDEX "sessions_user_id_index" ON "sessions" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "team_members_person_id_index" ON "team_members" USING btree ("person_id");--> statement-breakpoint
CREATE UNIQUE INDEX "test_versions_one_draft" ON "test_versions" USING btree ("test_id") WHERE "test_versions"."state" = 'draft';--> statement-breakpoint
CREATE INDEX "tests_node_id_index" ON "tests" USING btree ("node_id");--> statement-breakpoint
CREATE INDEX "turns_cycle_id_status_index" ON "turns" USING btree ("cycle_id","status");--> statement-breakpoint
CREATE INDEX "turns_assignee_id_state_index" ON "turns" USING btree ("assignee_id","state");--> statement-breakpoint
CREATE INDEX "turns_test_id_index" ON "turns" USING btree ("test_id");--> statement-breakpoint
CREATE INDEX "turns_node_id_index" ON "turns" USING btree ("node_id");