CREATE TABLE "handouts" (
	"token" text PRIMARY KEY NOT NULL,
	"document_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "handouts_document_id_unique" UNIQUE("document_id")
);
--> statement-breakpoint
ALTER TABLE "handouts" ADD CONSTRAINT "handouts_document_id_documents_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."documents"("id") ON DELETE no action ON UPDATE no action;