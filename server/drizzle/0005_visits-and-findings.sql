-- Words are searched anywhere in a line: trigrams, from PostgreSQL's own contributed modules.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE TABLE "documents" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"title" text NOT NULL,
	"bytes" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"data" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "finding_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"finding_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "finding_entries_in_order" UNIQUE("finding_id","position")
);
--> statement-breakpoint
CREATE TABLE "findings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid,
	"map_revision" integer NOT NULL,
	"part_id" text,
	"place" text DEFAULT '' NOT NULL,
	"what" text NOT NULL,
	"severity" text NOT NULL,
	"cause" text DEFAULT '' NOT NULL,
	"advice" text DEFAULT '' NOT NULL,
	"parts_needed" text DEFAULT '' NOT NULL,
	"minutes" integer,
	"state" text NOT NULL,
	"answer" text,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "findings_in_workshop" UNIQUE("workshop_id","id"),
	CONSTRAINT "findings_severity" CHECK ("findings"."severity" in ('unsafe', 'will fail', 'wears', 'note')),
	CONSTRAINT "findings_state" CHECK ("findings"."state" in ('open', 'mended', 'accepted')),
	CONSTRAINT "findings_answer" CHECK ("findings"."answer" in ('do it', 'later', 'no'))
);
--> statement-breakpoint
CREATE TABLE "merges" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"what" text NOT NULL,
	"kept_id" uuid NOT NULL,
	"gone_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"moved" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "merges_what" CHECK ("merges"."what" in ('customer', 'unit'))
);
--> statement-breakpoint
CREATE TABLE "owner_links" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"withdrawn_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "picture_bytes" (
	"picture_id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"data" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "pictures" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"about" text NOT NULL,
	"about_id" text NOT NULL,
	"caption" text DEFAULT '' NOT NULL,
	"marks" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"bytes" integer NOT NULL,
	"sent_hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "pictures_in_workshop" UNIQUE("workshop_id","id"),
	CONSTRAINT "pictures_about" CHECK ("pictures"."about" in ('look', 'finding', 'snapshot', 'part', 'unit'))
);
--> statement-breakpoint
CREATE TABLE "readings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid,
	"person_id" uuid NOT NULL,
	"part_id" text,
	"key" text NOT NULL,
	"label" text NOT NULL,
	"dimension" text NOT NULL,
	"value" double precision NOT NULL,
	"typed" text DEFAULT '' NOT NULL,
	"method" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "snapshots" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"map_revision" integer NOT NULL,
	"lineup" jsonb NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "snapshots_kind" CHECK ("snapshots"."kind" in ('as found', 'as left'))
);
--> statement-breakpoint
CREATE TABLE "spring_looks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid,
	"person_id" uuid NOT NULL,
	"item" text NOT NULL,
	"mark" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "spring_looks_mark" CHECK ("spring_looks"."mark" in ('pass', 'fail', 'not looked at'))
);
--> statement-breakpoint
ALTER TABLE "customers" ADD COLUMN "email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "customers" ADD COLUMN "address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "customers" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "customers" ADD COLUMN "search" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "customers" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "looks" ADD COLUMN "visit_id" uuid;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "hull" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "access_note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "holds_to_c" real DEFAULT 0;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "search" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "jobs" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "waiting_for" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "waiting_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "arrived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "gone_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "workshops" ADD COLUMN "link_key" text DEFAULT replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '') NOT NULL;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_entries" ADD CONSTRAINT "finding_entries_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_entries" ADD CONSTRAINT "finding_entries_workshop_id_finding_id_findings_workshop_id_id_fk" FOREIGN KEY ("workshop_id","finding_id") REFERENCES "public"."findings"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding_entries" ADD CONSTRAINT "finding_entries_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "merges" ADD CONSTRAINT "merges_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "merges" ADD CONSTRAINT "merges_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "owner_links" ADD CONSTRAINT "owner_links_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "owner_links" ADD CONSTRAINT "owner_links_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "owner_links" ADD CONSTRAINT "owner_links_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "owner_links" ADD CONSTRAINT "owner_links_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "picture_bytes" ADD CONSTRAINT "picture_bytes_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "picture_bytes" ADD CONSTRAINT "picture_bytes_workshop_id_picture_id_pictures_workshop_id_id_fk" FOREIGN KEY ("workshop_id","picture_id") REFERENCES "public"."pictures"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pictures" ADD CONSTRAINT "pictures_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pictures" ADD CONSTRAINT "pictures_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pictures" ADD CONSTRAINT "pictures_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_unit_id_map_revision_map_revisions_unit_id_revision_fk" FOREIGN KEY ("unit_id","map_revision") REFERENCES "public"."map_revisions"("unit_id","revision") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spring_looks" ADD CONSTRAINT "spring_looks_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spring_looks" ADD CONSTRAINT "spring_looks_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spring_looks" ADD CONSTRAINT "spring_looks_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spring_looks" ADD CONSTRAINT "spring_looks_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "documents_by_unit" ON "documents" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE INDEX "findings_by_unit" ON "findings" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE INDEX "findings_open" ON "findings" USING btree ("workshop_id","severity") WHERE "findings"."state" <> 'mended';--> statement-breakpoint
CREATE INDEX "owner_links_by_visit" ON "owner_links" USING btree ("workshop_id","visit_id");--> statement-breakpoint
CREATE INDEX "pictures_by_unit" ON "pictures" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE INDEX "readings_by_unit" ON "readings" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE INDEX "snapshots_by_visit" ON "snapshots" USING btree ("workshop_id","visit_id","at");--> statement-breakpoint
CREATE INDEX "spring_looks_by_unit" ON "spring_looks" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
ALTER TABLE "customers" ADD CONSTRAINT "customers_workshop_id_merged_into_customers_workshop_id_id_fk" FOREIGN KEY ("workshop_id","merged_into") REFERENCES "public"."customers"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_workshop_id_merged_into_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","merged_into") REFERENCES "public"."units"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "customers_by_name" ON "customers" USING btree ("workshop_id","name");--> statement-breakpoint
CREATE INDEX "customers_by_words" ON "customers" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "looks_by_point" ON "looks" USING btree ("workshop_id","unit_id","key","at");--> statement-breakpoint
CREATE INDEX "runs_by_visit" ON "runs" USING btree ("workshop_id","visit_id");--> statement-breakpoint
CREATE INDEX "units_by_name" ON "units" USING btree ("workshop_id","name");--> statement-breakpoint
CREATE INDEX "units_by_owner" ON "units" USING btree ("workshop_id","customer_id");--> statement-breakpoint
CREATE INDEX "units_by_cold" ON "units" USING btree ("workshop_id","holds_to_c" DESC NULLS LAST,"name");--> statement-breakpoint
CREATE INDEX "units_doubles" ON "units" USING btree ("workshop_id","merged_into") WHERE "units"."merged_into" is not null;--> statement-breakpoint
CREATE INDEX "units_by_words" ON "units" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "visits_by_unit" ON "visits" USING btree ("workshop_id","unit_id","starts_at");--> statement-breakpoint
CREATE INDEX "visits_here" ON "visits" USING btree ("workshop_id","starts_at") WHERE "visits"."state" in ('arrived', 'in work', 'waiting', 'ready');--> statement-breakpoint
ALTER TABLE "customers" ADD CONSTRAINT "customers_not_own_double" CHECK ("customers"."merged_into" is null or "customers"."merged_into" <> "customers"."id");--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_not_own_double" CHECK ("units"."merged_into" is null or "units"."merged_into" <> "units"."id");--> statement-breakpoint
CREATE FUNCTION refuse_change_of_entries() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% are only ever added', TG_TABLE_NAME;
END
$$;
--> statement-breakpoint
CREATE TRIGGER finding_entries_append_only BEFORE UPDATE OR DELETE ON finding_entries
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
CREATE TRIGGER snapshots_append_only BEFORE UPDATE OR DELETE ON snapshots
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
CREATE TRIGGER looks_append_only BEFORE UPDATE OR DELETE ON looks
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
CREATE TRIGGER readings_append_only BEFORE UPDATE OR DELETE ON readings
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
