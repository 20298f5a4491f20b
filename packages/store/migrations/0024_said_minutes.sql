CREATE TABLE "said_minutes" (
	"programme_id" uuid DEFAULT nullif(current_setting('kindred_baton.programme', true), '')::uuid NOT NULL,
	"attempt_id" uuid PRIMARY KEY NOT NULL,
	"minutes" integer NOT NULL,
	"said_at" timestamp with time zone NOT NULL,
	CONSTRAINT "said_minutes_minutes" CHECK ("said_minutes"."minutes" > 0)
);
--> statement-breakpoint
ALTER TABLE "said_minutes" ADD CONSTRAINT "said_minutes_programme_id_programmes_id_fk" FOREIGN KEY ("programme_id") REFERENCES "public"."programmes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "said_minutes" ADD CONSTRAINT "said_minutes_attempt_id_attempts_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
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
