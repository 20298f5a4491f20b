CREATE TYPE "public"."runner_order" AS ENUM('work', 'pause', 'drain', 'stop');--> statement-breakpoint
CREATE TABLE "leases" (
	"programme_id" uuid DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid NOT NULL,
	"attempt_id" uuid PRIMARY KEY NOT NULL,
	"runner_id" uuid NOT NULL,
	"taken_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"step_index" integer DEFAULT 0 NOT NULL
);--> statement-breakpoint
CREATE TABLE "pools" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"days" integer[] NOT NULL,
	"opens_at" integer NOT NULL,
	"closes_at" integer NOT NULL,
	CONSTRAINT "pools_hours" CHECK ("pools"."opens_at" >= 0 and "pools"."opens_at" < "pools"."closes_at" and "pools"."closes_at" <= 1440),
	CONSTRAINT "pools_days" CHECK (cardinality("pools"."days") > 0 and "pools"."days" <@ array[1, 2, 3, 4, 5, 6, 7])
);--> statement-breakpoint
CREATE TABLE "runners" (
	"id" uuid PRIMARY KEY NOT NULL,
	"programme_id" uuid NOT NULL,
	"pool_id" uuid NOT NULL,
	"name" text NOT NULL,
	"token_hash" text,
	"added_by" uuid NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL,
	"order" "runner_order" DEFAULT 'work' NOT NULL,
	"heard_at" timestamp with time zone,
	"instance" uuid,
	"machine" text DEFAULT '' NOT NULL,
	"sessions" integer DEFAULT 0 NOT NULL,
	"problem" text DEFAULT '' NOT NULL,
	CONSTRAINT "runners_tokenHash_unique" UNIQUE("token_hash"),
	CONSTRAINT "runners_sessions" CHECK ("runners"."sessions" between 0 and 64)
);--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "runner_id" uuid;--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "continues_id" uuid;--> statement-breakpoint
ALTER TABLE "attempts" DISABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "seed_id" uuid;--> statement-breakpoint
update "attempts" set seed_id = id;--> statement-breakpoint
ALTER TABLE "attempts" ALTER COLUMN "seed_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "attempts" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD COLUMN "user_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD COLUMN "secret" "bytea";--> statement-breakpoint
ALTER TABLE "persona_starts" ADD COLUMN "is_usual" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "by_id" uuid;--> statement-breakpoint
update "step_results" set by_id = attempts.person_id from attempts where attempts.id = "step_results".attempt_id;--> statement-breakpoint
ALTER TABLE "step_results" ALTER COLUMN "by_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "runner_id" uuid;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "expected" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "actual" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "unlooked" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "took_ms" integer;--> statement-breakpoint
ALTER TABLE "leases" ADD CONSTRAINT "leases_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "leases" ADD CONSTRAINT "leases_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "leases" ADD CONSTRAINT "leases_runner_id_runners_id_fk" FOREIGN KEY ("runner_id") REFERENCES "public"."runners"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pools" ADD CONSTRAINT "pools_id_people_id_fk" FOREIGN KEY ("id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pools" ADD CONSTRAINT "pools_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runners" ADD CONSTRAINT "runners_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runners" ADD CONSTRAINT "runners_pool_id_pools_id_fk" FOREIGN KEY ("pool_id") REFERENCES "public"."pools"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runners" ADD CONSTRAINT "runners_added_by_people_id_fk" FOREIGN KEY ("added_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "leases_runner_id_index" ON "leases" USING btree ("runner_id");--> statement-breakpoint
CREATE INDEX "leases_expires_at_index" ON "leases" USING btree ("expires_at");--> statement-breakpoint
CREATE INDEX "pools_programme_id_index" ON "pools" USING btree ("programme_id");--> statement-breakpoint
CREATE INDEX "runners_pool_id_index" ON "runners" USING btree ("pool_id");--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_runner_id_runners_id_fk" FOREIGN KEY ("runner_id") REFERENCES "public"."runners"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_continues_id_attempts_id_fk" FOREIGN KEY ("continues_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_results" ADD CONSTRAINT "step_results_by_id_people_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_results" ADD CONSTRAINT "step_results_runner_id_runners_id_fk" FOREIGN KEY ("runner_id") REFERENCES "public"."runners"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "persona_starts_one_usual" ON "persona_starts" USING btree ("application_id","environment_id") WHERE "persona_starts"."is_usual";--> statement-breakpoint
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
