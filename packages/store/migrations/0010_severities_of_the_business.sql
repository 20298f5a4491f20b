ALTER TYPE "severity" RENAME VALUE 'critical' TO 'stops the business';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'major' TO 'slows the business';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'minor' TO 'hinders';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'trivial' TO 'cosmetic';--> statement-breakpoint
UPDATE "cycles" SET "rules" = replace(replace(replace(replace("rules"::text,
  '"severity": "critical"', '"severity": "stops the business"'), '"severity": "major"', '"severity": "slows the business"'),
  '"severity": "minor"', '"severity": "hinders"'), '"severity": "trivial"', '"severity": "cosmetic"')::jsonb;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "severity_names" jsonb DEFAULT '{}'::jsonb NOT NULL;
