ALTER TABLE "runs" ALTER COLUMN "left_to" SET DATA TYPE text;--> statement-breakpoint
DROP TYPE "public"."leftover_way";--> statement-breakpoint
CREATE TYPE "public"."leftover_way" AS ENUM('next cycle', 'dropped', 'taken out');--> statement-breakpoint
-- What was dropped while its cycle was open is out of scope; the history of the cycle names it, by its number and scenario.
update runs set left_to = 'taken out'
where left_to = 'dropped' and exists (
  select from history, jsonb_array_elements_text(history.details -> 'dropped') as said
  where history.subject = 'cycle' and history.action = 'scope changed' and history.subject_id = runs.cycle_id
    and split_part(said, ' ', 1) = runs.number::text
);--> statement-breakpoint
ALTER TABLE "runs" ALTER COLUMN "left_to" SET DATA TYPE "public"."leftover_way" USING "left_to"::"public"."leftover_way";
