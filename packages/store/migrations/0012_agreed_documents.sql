ALTER TABLE "scenarios" ADD COLUMN "agreed_document" jsonb;
