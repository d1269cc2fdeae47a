CREATE TABLE "price_lines" (
	"workshop_id" uuid NOT NULL,
	"key" text NOT NULL,
	"label" text DEFAULT '' NOT NULL,
	"price" real,
	"roll_m" real,
	"rests_m" jsonb DEFAULT '[]'::jsonb NOT NULL,
	CONSTRAINT "price_lines_workshop_id_key_pk" PRIMARY KEY("workshop_id","key")
);
--> statement-breakpoint
CREATE TABLE "refit_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"refit_id" uuid NOT NULL,
	"person_id" uuid,
	"by_name" text DEFAULT '' NOT NULL,
	"position" integer NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "refit_entries_in_order" UNIQUE("refit_id","position")
);
--> statement-breakpoint
CREATE TABLE "refits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"name" text NOT NULL,
	"based_on" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	"withdrawn_at" timestamp with time zone,
	CONSTRAINT "refits_in_workshop" UNIQUE("workshop_id","id")
);
--> statement-breakpoint
ALTER TABLE "price_lines" ADD CONSTRAINT "price_lines_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refit_entries" ADD CONSTRAINT "refit_entries_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refit_entries" ADD CONSTRAINT "refit_entries_workshop_id_refit_id_refits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","refit_id") REFERENCES "public"."refits"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refit_entries" ADD CONSTRAINT "refit_entries_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refits" ADD CONSTRAINT "refits_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "refits" ADD CONSTRAINT "refits_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "refits_by_unit" ON "refits" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE TRIGGER refit_entries_append_only BEFORE UPDATE OR DELETE ON "refit_entries" FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();--> statement-breakpoint
-- An owner who answered by their link can be taken out by name, like the one who answered about a finding.
CREATE OR REPLACE FUNCTION refuse_change_of_entries() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND EXISTS (SELECT 1 FROM workshops w WHERE w.id = OLD.workshop_id AND w.is_demo) THEN
    RETURN OLD;
  END IF;
  IF TG_OP = 'UPDATE' AND TG_TABLE_NAME IN ('report_editions', 'finding_entries', 'refit_entries')
    AND current_setting('upper_shed.erasing', true) = 'on' THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% are only ever added', TG_TABLE_NAME;
END
$$;
