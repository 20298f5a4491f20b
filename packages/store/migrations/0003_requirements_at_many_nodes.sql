INSERT INTO "requirement_nodes" ("requirement_id", "node_id") SELECT "id", "node_id" FROM "requirements" WHERE "node_id" IS NOT NULL;
--> statement-breakpoint
ALTER TABLE "requirements" DROP CONSTRAINT "requirements_node_id_nodes_id_fk";
--> statement-breakpoint
ALTER TABLE "requirements" DROP COLUMN "node_id";
--> statement-breakpoint
-- The words of a test's newest version, for full-text search.
create function list_step_words(steps jsonb) returns text language sql immutable as $$
  select coalesce(string_agg(concat_ws(' ', step->>'target', step->>'within', step->>'beside', step->>'value', step->>'expect', step->>'keepAs', step->>'as'), ' '), '')
  from jsonb_array_elements(steps) as step
$$;
--> statement-breakpoint
create function keep_test_words() returns trigger language plpgsql as $$
begin
  update tests set words = list_step_words(new.steps)
  where id = new.test_id and not exists (select from test_versions as newer where newer.test_id = new.test_id and newer.number > new.number);
  return null;
end $$;
--> statement-breakpoint
create trigger keep_test_words after insert or update of steps on test_versions for each row execute function keep_test_words();
--> statement-breakpoint
update tests set words = list_step_words(newest.steps)
from (select distinct on (test_id) test_id, steps from test_versions order by test_id, number desc) as newest
where newest.test_id = tests.id;
