CREATE TYPE "public"."job_state" AS ENUM('waiting', 'under way', 'done', 'failed', 'stopped');--> statement-breakpoint
CREATE TYPE "public"."run_by" AS ENUM('hand', 'runner');--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"input" jsonb NOT NULL,
	"state" "job_state" DEFAULT 'waiting' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"message" text,
	"file_name" text,
	"media_type" text,
	"content" "bytea",
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "jobs_progress" CHECK ("jobs"."done" >= 0)
);
--> statement-breakpoint
CREATE TABLE "persona_starts" (
	"persona_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"environment_id" uuid NOT NULL,
	"how" text NOT NULL,
	CONSTRAINT "persona_starts_persona_id_application_id_environment_id_pk" PRIMARY KEY("persona_id","application_id","environment_id")
);
--> statement-breakpoint
CREATE TABLE "personas" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"name" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	CONSTRAINT "personas_programmeId_name_unique" UNIQUE("programme_id","name"),
	CONSTRAINT "personas_name" CHECK ("personas"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "requirement_nodes" (
	"requirement_id" uuid NOT NULL,
	"node_id" uuid NOT NULL,
	CONSTRAINT "requirement_nodes_requirement_id_node_id_pk" PRIMARY KEY("requirement_id","node_id")
);
--> statement-breakpoint
CREATE TABLE "waivers" (
	"test_id" uuid NOT NULL,
	"rule" text NOT NULL,
	"about" text NOT NULL,
	"note" text NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "waivers_test_id_rule_about_pk" PRIMARY KEY("test_id","rule","about"),
	CONSTRAINT "waivers_note" CHECK ("waivers"."note" <> '')
);
--> statement-breakpoint
ALTER TABLE "requirement_tests" DROP CONSTRAINT "requirement_tests_requirement_id_requirements_id_fk";
--> statement-breakpoint
DROP INDEX "requirements_node_id_index";--> statement-breakpoint
ALTER TABLE "nodes" ADD COLUMN "documents" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "nodes" ADD COLUMN "retired_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "code_scheme" text[] DEFAULT '{"{initials}","{parent}-9","{parent}.9"}' NOT NULL;--> statement-breakpoint
ALTER TABLE "requirements" ADD COLUMN "description" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "run_by" "run_by" DEFAULT 'hand' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "tags" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "words" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tests" ADD COLUMN "search" "tsvector" GENERATED ALWAYS AS (setweight(to_tsvector('english', translate(code || ' ' || name, '-._/', '    ')), 'A') || setweight(to_tsvector('english', translate(words, '-._/', '    ')), 'B')) STORED;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD CONSTRAINT "persona_starts_persona_id_personas_id_fk" FOREIGN KEY ("persona_id") REFERENCES "public"."personas"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD CONSTRAINT "persona_starts_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD CONSTRAINT "persona_starts_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "personas" ADD CONSTRAINT "personas_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_nodes" ADD CONSTRAINT "requirement_nodes_requirement_id_requirements_id_fk" FOREIGN KEY ("requirement_id") REFERENCES "public"."requirements"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_nodes" ADD CONSTRAINT "requirement_nodes_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waivers" ADD CONSTRAINT "waivers_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waivers" ADD CONSTRAINT "waivers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "jobs_programme_id_created_at_index" ON "jobs" USING btree ("programme_id","created_at");--> statement-breakpoint
CREATE INDEX "requirement_nodes_node_id_index" ON "requirement_nodes" USING btree ("node_id");--> statement-breakpoint
ALTER TABLE "requirement_tests" ADD CONSTRAINT "requirement_tests_requirement_id_requirements_id_fk" FOREIGN KEY ("requirement_id") REFERENCES "public"."requirements"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tests_search" ON "tests" USING gin ("search");--> statement-breakpoint
CREATE INDEX "tests_tags" ON "tests" USING gin ("tags");--> statement-breakpoint
ALTER TABLE "requirements" ADD CONSTRAINT "requirements_texts" CHECK ("requirements"."code" <> '' and "requirements"."title" <> '');