ALTER TABLE "documents" ADD COLUMN "key" uuid;--> statement-breakpoint
ALTER TABLE "document_versions" ADD COLUMN "key" uuid;--> statement-breakpoint
CREATE INDEX "documents_changed" ON "documents" USING btree ("updated_at" DESC NULLS LAST,"title");--> statement-breakpoint
CREATE UNIQUE INDEX "document_versions_key" ON "document_versions" USING btree ("document_id","key");--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_key_unique" UNIQUE("key");