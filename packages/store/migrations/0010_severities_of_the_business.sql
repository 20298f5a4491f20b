ALTER TYPE "severity" RENAME VALUE 'critical' TO 'stops the business';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'major' TO 'slows the business';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'minor' TO 'hinders';--> statement-breakpoint
ALTER TYPE "severity" RENAME VALUE 'trivial' TO 'cosmetic';--> statement-breakpoint
UPDATE "cycles" SET "rules" = replace(replace(replace(replace("rules"::text,
  '"severity": "critical"', '"severity": "stops the business"'), '"severity": "major"', '"severity": "slows the business"'),
  '"severity": "minor"', '"severity": "hinders"'), '"severity": "trivial"', '"severity": "cosmetic"')::jsonb;--> statement-breakpoint
ALTER TABLE "cycles" ALTER COLUMN "rules" SET DEFAULT '{"onlyAgreedScenarios":false,"openLegs":"refused","evidence":"none","failure":[],"retestBy":"anybody of the lane","laneMayRecord":false,"exit":[{"kind":"run share","least":1},{"kind":"pass share","least":0.95},{"kind":"open defects","severity":"slows the business","most":0},{"kind":"critical nodes signed off"}]}'::jsonb;--> statement-breakpoint
ALTER TABLE "programmes" ADD COLUMN "severity_names" jsonb DEFAULT '{}'::jsonb NOT NULL;
