CREATE TABLE "version_pictures" (
	"document_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"png" "bytea" NOT NULL,
	"faces" integer,
	"points" integer,
	CONSTRAINT "version_pictures_document_id_version_pk" PRIMARY KEY("document_id","version")
);
--> statement-breakpoint
ALTER TABLE "document_versions" ADD COLUMN "note" text;--> statement-breakpoint
ALTER TABLE "version_pictures" ADD CONSTRAINT "version_pictures_document_id_documents_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."documents"("id") ON DELETE no action ON UPDATE no action;