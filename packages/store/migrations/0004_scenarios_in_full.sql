CREATE TABLE "scenario_states" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"scenario_id" uuid NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" uuid,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "version" integer;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "persona_id" uuid;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "same_person_as" uuid;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "other_person_than" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "needs" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "gives" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "scenarios" ADD COLUMN "classes" jsonb;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "persona_id" uuid;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "same_person_as" integer;--> statement-breakpoint
ALTER TABLE "turns" ADD COLUMN "other_person_than" integer[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "scenario_states" ADD CONSTRAINT "scenario_states_scenario_id_scenarios_id_fk" FOREIGN KEY ("scenario_id") REFERENCES "public"."scenarios"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenario_states" ADD CONSTRAINT "scenario_states_saved_by_people_id_fk" FOREIGN KEY ("saved_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "scenario_states_scenario_id_id_index" ON "scenario_states" USING btree ("scenario_id","id");--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_persona_id_personas_id_fk" FOREIGN KEY ("persona_id") REFERENCES "public"."personas"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_persona_id_personas_id_fk" FOREIGN KEY ("persona_id") REFERENCES "public"."personas"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_version" CHECK ("legs"."version" is null or ("legs"."version" > 0 and "legs"."test_id" is not null));