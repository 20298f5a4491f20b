-- Every row says whose it is. What is written in a programme takes it from the transaction (store/src/operation.ts).
ALTER TABLE "attempts" DISABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "test_versions" DISABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "attempts" set programme_id = parent.programme_id from "turns" parent where parent.id = "attempts".turn_id;--> statement-breakpoint
ALTER TABLE "attempts" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "cycle_environments" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "cycle_environments" set programme_id = parent.programme_id from "cycles" parent where parent.id = "cycle_environments".cycle_id;--> statement-breakpoint
ALTER TABLE "cycle_environments" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "defect_turns" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "defect_turns" set programme_id = parent.programme_id from "defects" parent where parent.id = "defect_turns".defect_id;--> statement-breakpoint
ALTER TABLE "defect_turns" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "defect_words" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "defect_words" set programme_id = parent.programme_id from "defects" parent where parent.id = "defect_words".defect_id;--> statement-breakpoint
ALTER TABLE "defect_words" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "installations" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "installations" set programme_id = parent.programme_id from "environments" parent where parent.id = "installations".environment_id;--> statement-breakpoint
ALTER TABLE "installations" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "legs" set programme_id = parent.programme_id from "scenarios" parent where parent.id = "legs".scenario_id;--> statement-breakpoint
ALTER TABLE "legs" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "nudges" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "nudges" set programme_id = parent.programme_id from "turns" parent where parent.id = "nudges".turn_id;--> statement-breakpoint
ALTER TABLE "nudges" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "persona_starts" set programme_id = parent.programme_id from "personas" parent where parent.id = "persona_starts".persona_id;--> statement-breakpoint
ALTER TABLE "persona_starts" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "requirement_nodes" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "requirement_nodes" set programme_id = parent.programme_id from "requirements" parent where parent.id = "requirement_nodes".requirement_id;--> statement-breakpoint
ALTER TABLE "requirement_nodes" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "requirement_tests" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "requirement_tests" set programme_id = parent.programme_id from "requirements" parent where parent.id = "requirement_tests".requirement_id;--> statement-breakpoint
ALTER TABLE "requirement_tests" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "runs" set programme_id = parent.programme_id from "cycles" parent where parent.id = "runs".cycle_id;--> statement-breakpoint
ALTER TABLE "runs" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "scenario_rows" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "scenario_rows" set programme_id = parent.programme_id from "scenarios" parent where parent.id = "scenario_rows".scenario_id;--> statement-breakpoint
ALTER TABLE "scenario_rows" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "scenario_states" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "scenario_states" set programme_id = parent.programme_id from "scenarios" parent where parent.id = "scenario_states".scenario_id;--> statement-breakpoint
ALTER TABLE "scenario_states" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "sign_offs" set programme_id = parent.programme_id from "cycles" parent where parent.id = "sign_offs".cycle_id;--> statement-breakpoint
ALTER TABLE "sign_offs" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "team_members" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "team_members" set programme_id = parent.programme_id from "teams" parent where parent.id = "team_members".team_id;--> statement-breakpoint
ALTER TABLE "team_members" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "test_versions" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "test_versions" set programme_id = parent.programme_id from "tests" parent where parent.id = "test_versions".test_id;--> statement-breakpoint
ALTER TABLE "test_versions" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "waivers" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "waivers" set programme_id = parent.programme_id from "tests" parent where parent.id = "waivers".test_id;--> statement-breakpoint
ALTER TABLE "waivers" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "step_results" ADD COLUMN "programme_id" uuid;--> statement-breakpoint
update "step_results" set programme_id = parent.programme_id from "attempts" parent where parent.id = "step_results".attempt_id;--> statement-breakpoint
ALTER TABLE "step_results" ALTER COLUMN "programme_id" SET NOT NULL, ALTER COLUMN "programme_id" SET DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "attempts" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "test_versions" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cycle_environments" ADD CONSTRAINT "cycle_environments_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_turns" ADD CONSTRAINT "defect_turns_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "defect_words" ADD CONSTRAINT "defect_words_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "installations" ADD CONSTRAINT "installations_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nudges" ADD CONSTRAINT "nudges_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "persona_starts" ADD CONSTRAINT "persona_starts_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_nodes" ADD CONSTRAINT "requirement_nodes_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirement_tests" ADD CONSTRAINT "requirement_tests_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenario_rows" ADD CONSTRAINT "scenario_rows_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenario_states" ADD CONSTRAINT "scenario_states_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_offs" ADD CONSTRAINT "sign_offs_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_results" ADD CONSTRAINT "step_results_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_members" ADD CONSTRAINT "team_members_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_versions" ADD CONSTRAINT "test_versions_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waivers" ADD CONSTRAINT "waivers_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
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
-- Who acts in a programme acts as this role, and sees and writes rows of that programme alone, whatever a statement says or forgets.
do $$
begin
  if not exists (select 1 from pg_roles where rolname = 'kindred_baton_member') then create role kindred_baton_member nologin; end if;
exception when duplicate_object or unique_violation then null;
end $$;
--> statement-breakpoint
do $$
begin
  if not pg_has_role(current_user, 'kindred_baton_member', 'member') then execute format('grant kindred_baton_member to %I', current_user); end if;
end $$;
--> statement-breakpoint
grant usage on schema public to kindred_baton_member;
--> statement-breakpoint
grant select on programmes, people to kindred_baton_member;
--> statement-breakpoint
grant update on programmes, people to kindred_baton_member;
--> statement-breakpoint
grant usage on all sequences in schema public to kindred_baton_member;
--> statement-breakpoint
do $$
declare own record;
begin
  for own in
    select table_of.relname as name from pg_class table_of
    join pg_namespace space on space.oid = table_of.relnamespace and space.nspname = 'public'
    where table_of.relkind = 'r' and exists (select 1 from pg_attribute mark where mark.attrelid = table_of.oid and mark.attname = 'programme_id')
  loop
    execute format('alter table %I enable row level security', own.name);
    execute format('grant select, insert, update, delete on %I to kindred_baton_member', own.name);
    execute format('create policy own_programme on %I to kindred_baton_member using (programme_id = (select current_setting(''kindred_baton.programme'')::uuid))', own.name);
  end loop;
end $$;
--> statement-breakpoint
alter table programmes enable row level security;
--> statement-breakpoint
create policy own_programme on programmes to kindred_baton_member using (id = (select current_setting('kindred_baton.programme')::uuid));
