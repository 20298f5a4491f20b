ALTER TABLE "scenarios" ADD COLUMN "only_test_id" uuid;--> statement-breakpoint
ALTER TABLE "scenarios" ADD CONSTRAINT "scenarios_only_test_id_tests_id_fk" FOREIGN KEY ("only_test_id") REFERENCES "public"."tests"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scenarios" ADD CONSTRAINT "scenarios_only_test_id_unique" UNIQUE("only_test_id");
