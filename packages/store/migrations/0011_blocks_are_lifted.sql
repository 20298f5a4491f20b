ALTER TABLE "turns" ADD COLUMN "lifted_after" integer;
