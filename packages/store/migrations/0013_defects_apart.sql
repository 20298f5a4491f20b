ALTER TABLE "defects" ADD COLUMN "node_id" uuid;--> statement-breakpoint
ALTER TABLE "defects" ADD CONSTRAINT "defects_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE set null ON UPDATE no action;
