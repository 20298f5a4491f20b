ALTER TABLE "members" ALTER COLUMN "notices" SET DEFAULT '{"baton":true,"fixed":true,"nudge":true,"defect":true,"decision":true,"digest":false,"news":false}'::jsonb;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "news_on" date;
