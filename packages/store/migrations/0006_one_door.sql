update defects set status = 'closed' where status = 'retested';--> statement-breakpoint
ALTER TABLE "defects" DROP CONSTRAINT "defects_declined";--> statement-breakpoint
ALTER TABLE "defects" ALTER COLUMN "status" DROP DEFAULT;--> statement-breakpoint
ALTER TYPE "public"."defect_status" RENAME TO "defect_status_before";--> statement-breakpoint
CREATE TYPE "public"."defect_status" AS ENUM('new', 'accepted', 'fixed', 'closed', 'declined');--> statement-breakpoint
ALTER TABLE "defects" ALTER COLUMN "status" SET DATA TYPE "public"."defect_status" USING "status"::text::"public"."defect_status";--> statement-breakpoint
ALTER TABLE "defects" ALTER COLUMN "status" SET DEFAULT 'new';--> statement-breakpoint
DROP TYPE "public"."defect_status_before";--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_declined" CHECK ("defects"."status" <> 'declined' or "defects"."reason" <> '');--> statement-breakpoint
ALTER TABLE "attempts" ADD COLUMN "is_abandoned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "defect_turns" ADD COLUMN "retest_after" integer;
--> statement-breakpoint
-- A fix's retest is what was tried after it. Of the fixed defects: a turn that is to be tried again, or that another defect still holds, was not
-- tried since; any other was.
update defect_turns set retest_after = coalesce((
  select max(attempts.number) from attempts where attempts.turn_id = turns.id and attempts.finished_at is not null
), 0) - case when turns.is_retest_due or turns.outcome in ('not run', 'blocked') or exists (
  select 1 from defect_turns other join defects holding on holding.id = other.defect_id
  where other.turn_id = turns.id and holding.status in ('new', 'accepted')
) then 0 else 1 end
from turns, defects
where turns.id = defect_turns.turn_id and defects.id = defect_turns.defect_id and defects.status = 'fixed';
