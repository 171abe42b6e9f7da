CREATE TABLE "assets" (
	"hash" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"size" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"title" text NOT NULL,
	"version" integer NOT NULL,
	"sample" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	CONSTRAINT "documents_sample_unique" UNIQUE("sample")
);
--> statement-breakpoint
CREATE TABLE "pictures" (
	"document_id" uuid PRIMARY KEY NOT NULL,
	"version" integer NOT NULL,
	"png" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "document_versions" (
	"document_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"title" text NOT NULL,
	"document" json NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "document_versions_document_id_version_pk" PRIMARY KEY("document_id","version")
);
--> statement-breakpoint
ALTER TABLE "pictures" ADD CONSTRAINT "pictures_document_id_documents_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."documents"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_versions" ADD CONSTRAINT "document_versions_document_id_documents_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."documents"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "document_versions_created" ON "document_versions" USING btree ("created_at");