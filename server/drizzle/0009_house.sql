CREATE TABLE "kit" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"given_up" boolean DEFAULT false NOT NULL,
	"here" real,
	"least" real,
	"facts" jsonb NOT NULL,
	CONSTRAINT "kit_kind" CHECK ("kit"."kind" in ('antifreeze', 'bleach', 'instrument', 'socket', 'adapter', 'regulator', 'compressor', 'pump-cart'))
);
--> statement-breakpoint
CREATE TABLE "places" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"winter_low_c" real NOT NULL,
	"first_frost" text,
	"last_frost" text,
	"height_m" real,
	"waste_to" text DEFAULT '' NOT NULL,
	"antifreeze_to" text DEFAULT '' NOT NULL,
	"chlorine_to" text DEFAULT '' NOT NULL,
	"given_up" boolean DEFAULT false NOT NULL,
	CONSTRAINT "places_in_workshop" UNIQUE("workshop_id","id"),
	CONSTRAINT "places_by_name" UNIQUE("workshop_id","name"),
	CONSTRAINT "places_kind" CHECK ("places"."kind" in ('yard', 'bay', 'mooring', 'customers'))
);
--> statement-breakpoint
CREATE TABLE "proposals" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"what" text NOT NULL,
	"body" jsonb NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"done_at" timestamp with time zone,
	"done_by" uuid,
	"withdrawn_at" timestamp with time zone,
	CONSTRAINT "proposals_kind" CHECK ("proposals"."kind" in ('rules', 'merge-unit', 'merge-customer'))
);
--> statement-breakpoint
CREATE TABLE "rule_revisions" (
	"workshop_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"id" uuid NOT NULL,
	"values" jsonb NOT NULL,
	"person_id" uuid NOT NULL,
	"why" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"countersigned_by" uuid,
	CONSTRAINT "rule_revisions_workshop_id_revision_pk" PRIMARY KEY("workshop_id","revision"),
	CONSTRAINT "rule_revisions_id_unique" UNIQUE("id"),
	CONSTRAINT "rule_revisions_from_one" CHECK ("rule_revisions"."revision" >= 1)
);
--> statement-breakpoint
ALTER TABLE "workshops" DROP CONSTRAINT "workshops_units";--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "instrument" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "totp_secret" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "totp_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "totp_step" integer;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "recovery" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "place_id" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "accepted_who" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "accepted_why" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "workshops" ADD COLUMN "dates" text DEFAULT 'day-month-year' NOT NULL;--> statement-breakpoint
ALTER TABLE "kit" ADD CONSTRAINT "kit_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rule_revisions" ADD CONSTRAINT "rule_revisions_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rule_revisions" ADD CONSTRAINT "rule_revisions_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "kit_of_workshop" ON "kit" USING btree ("workshop_id","kind","name");--> statement-breakpoint
CREATE INDEX "proposals_of_workshop" ON "proposals" USING btree ("workshop_id","at");--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_workshop_id_place_id_places_workshop_id_id_fk" FOREIGN KEY ("workshop_id","place_id") REFERENCES "public"."places"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workshops" ADD CONSTRAINT "workshops_dates" CHECK ("workshops"."dates" in ('day-month-year', 'month-day-year', 'year-month-day'));--> statement-breakpoint
ALTER TABLE "workshops" ADD CONSTRAINT "workshops_units" CHECK ("workshops"."units" in ('us', 'us.point', 'us.comma', 'us.C', 'us.C.point', 'us.C.comma', 'us.F', 'us.F.point', 'us.F.comma', 'metric', 'metric.point', 'metric.comma', 'metric.C', 'metric.C.point', 'metric.C.comma', 'metric.F', 'metric.F.point', 'metric.F.comma', 'imperial', 'imperial.point', 'imperial.comma', 'imperial.C', 'imperial.C.point', 'imperial.C.comma', 'imperial.F', 'imperial.F.point', 'imperial.F.comma'));--> statement-breakpoint
CREATE TRIGGER rule_revisions_append_only BEFORE UPDATE OR DELETE ON "rule_revisions" FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
-- Records of apprentices that nobody has countersigned wait for it.
UPDATE "runs" SET "summary" = "summary" || jsonb_build_object('waits',
  EXISTS (SELECT 1 FROM "run_events" e WHERE e."run_id" = "runs"."id" AND e."type" = 'closed' AND e."by_role" = 'apprentice')
  AND NOT EXISTS (SELECT 1 FROM "run_events" e WHERE e."run_id" = "runs"."id" AND e."type" = 'countersigned'))
WHERE "closed_at" IS NOT NULL;
--> statement-breakpoint
-- What was recorded stays. Only a demo is taken away whole; and an owner who asks for it is taken out of reports and answers by name.
CREATE OR REPLACE FUNCTION refuse_change_of_entries() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND EXISTS (SELECT 1 FROM workshops w WHERE w.id = OLD.workshop_id AND w.is_demo) THEN
    RETURN OLD;
  END IF;
  IF TG_OP = 'UPDATE' AND TG_TABLE_NAME IN ('report_editions', 'finding_entries')
    AND current_setting('upper_shed.erasing', true) = 'on' THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% are only ever added', TG_TABLE_NAME;
END
$$;
