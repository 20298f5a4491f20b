CREATE INDEX "attempts_kept" ON "attempts" USING gin ("kept");
