CREATE TYPE "public"."door_kind" AS ENUM('interface', 'database');--> statement-breakpoint
CREATE TYPE "public"."door_sign_in" AS ENUM('none', 'bearer', 'basic', 'header');--> statement-breakpoint
CREATE TABLE "captures" (
	"programme_id" uuid DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid NOT NULL,
	"attempt_id" uuid NOT NULL,
	"step_index" integer NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "captures_attempt_id_step_index_pk" PRIMARY KEY("attempt_id","step_index")
);
--> statement-breakpoint
CREATE TABLE "doors" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"environment_id" uuid NOT NULL,
	"application_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" "door_kind" NOT NULL,
	"address" text NOT NULL,
	"sign_in" "door_sign_in" DEFAULT 'none' NOT NULL,
	"user_name" text DEFAULT '' NOT NULL,
	"secret" "bytea",
	CONSTRAINT "doors_environmentId_name_unique" UNIQUE("environment_id","name"),
	CONSTRAINT "doors_name" CHECK ("doors"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "trials" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"environment_id" uuid NOT NULL,
	"persona_id" uuid,
	"steps" jsonb NOT NULL,
	"gives" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"runner_id" uuid,
	"taken_at" timestamp with time zone,
	"expires_at" timestamp with time zone,
	"finished_at" timestamp with time zone,
	"results" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"picture" "bytea"
);
--> statement-breakpoint
ALTER TABLE "cycles" ALTER COLUMN "rules" SET DEFAULT '{"onlyAgreedScenarios":false,"openLegs":"refused","evidence":"none","runnerPictures":"each step","failure":[],"retestBy":"anybody of the lane","laneMayRecord":false,"exit":[{"kind":"run share","least":1},{"kind":"pass share","least":0.95},{"kind":"open defects","severity":"slows the business","most":0},{"kind":"critical nodes signed off"}]}'::jsonb;--> statement-breakpoint
ALTER TABLE "captures" ADD CONSTRAINT "captures_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "captures" ADD CONSTRAINT "captures_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "doors" ADD CONSTRAINT "doors_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "doors" ADD CONSTRAINT "doors_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "doors" ADD CONSTRAINT "doors_application_id_applications_id_fk" FOREIGN KEY ("application_id") REFERENCES "public"."applications"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_test_id_tests_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."tests"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_environment_id_environments_id_fk" FOREIGN KEY ("environment_id") REFERENCES "public"."environments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_persona_id_personas_id_fk" FOREIGN KEY ("persona_id") REFERENCES "public"."personas"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_asked_by_people_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_runner_id_runners_id_fk" FOREIGN KEY ("runner_id") REFERENCES "public"."runners"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "trials_programme_id_asked_at_index" ON "trials" USING btree ("programme_id","asked_at");--> statement-breakpoint
CREATE INDEX "trials_waiting" ON "trials" USING btree ("programme_id") WHERE "trials"."runner_id" is null and "trials"."finished_at" is null;
--> statement-breakpoint
update cycles set rules = rules || '{"runnerPictures": "each step"}'::jsonb where not rules ? 'runnerPictures';
--> statement-breakpoint
-- What points to another row points to one of its own programme: each reference carries the programme with it.
do $$
declare own record;
begin
  for own in
    select child.relname as child, parent.relname as parent, fk.conname as name, key.attname as key, fk.confdeltype as gone,
      not key.attnotnull as is_optional
    from pg_constraint fk
    join pg_class child on child.oid = fk.conrelid
    join pg_class parent on parent.oid = fk.confrelid
    join pg_namespace space on space.oid = child.relnamespace and space.nspname = 'public'
    join pg_attribute key on key.attrelid = child.oid and key.attnum = fk.conkey[1]
    join pg_attribute target on target.attrelid = parent.oid and target.attnum = fk.confkey[1] and target.attname = 'id'
    where fk.contype = 'f' and cardinality(fk.conkey) = 1 and key.attname <> 'programme_id'
      and exists (select 1 from pg_attribute mark where mark.attrelid = child.oid and mark.attname = 'programme_id')
      and exists (select 1 from pg_attribute mark where mark.attrelid = parent.oid and mark.attname = 'programme_id')
  loop
    if not exists (select 1 from pg_class where relname = own.parent || '_of_programme') then
      execute format('create unique index %I on %I (programme_id, id)', own.parent || '_of_programme', own.parent);
    end if;
    execute format('alter table %I drop constraint %I', own.child, own.name);
    execute format('alter table %I add constraint %I foreign key (programme_id, %I) references %I (programme_id, id)%s', own.child, own.name,
      own.key, own.parent, case own.gone when 'c' then ' on delete cascade' when 'n' then format(' on delete set null (%I)', own.key) else '' end);
  end loop;
end $$;
--> statement-breakpoint
do $$
declare own record;
begin
  for own in
    select table_of.relname as name from pg_class table_of
    join pg_namespace space on space.oid = table_of.relnamespace and space.nspname = 'public'
    where table_of.relkind = 'r' and not table_of.relrowsecurity
      and exists (select 1 from pg_attribute mark where mark.attrelid = table_of.oid and mark.attname = 'programme_id')
  loop
    execute format('alter table %I enable row level security', own.name);
    execute format('grant select, insert, update, delete on %I to kindred_baton_member', own.name);
    execute format('create policy own_programme on %I to kindred_baton_member using (programme_id = (select current_setting(''kindred_baton.programme'')::uuid))', own.name);
  end loop;
end $$;
