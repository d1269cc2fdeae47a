CREATE TABLE "data_migrations" (
	"name" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "report_editions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"customer_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"how" text NOT NULL,
	"digest" text NOT NULL,
	"data" jsonb NOT NULL,
	CONSTRAINT "report_editions_in_workshop" UNIQUE("workshop_id","id"),
	CONSTRAINT "report_editions_in_order" UNIQUE("visit_id","number"),
	CONSTRAINT "report_editions_how" CHECK ("report_editions"."how" in ('print', 'pdf', 'link', 'gone'))
);
--> statement-breakpoint
CREATE TABLE "unit_history" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"position" bigserial NOT NULL,
	"kind" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" uuid,
	"ref" uuid,
	"body" jsonb DEFAULT '{}'::jsonb NOT NULL,
	CONSTRAINT "unit_history_kind" CHECK ("unit_history"."kind" in ('run-closed', 'in-use', 'left', 'map-revised', 'opened'))
);
--> statement-breakpoint
ALTER TABLE "units" RENAME COLUMN "mark" TO "plate";--> statement-breakpoint
ALTER TABLE "findings" DROP CONSTRAINT "findings_severity";--> statement-breakpoint
ALTER TABLE "findings" DROP CONSTRAINT "findings_answer";--> statement-breakpoint
ALTER TABLE "looks" DROP CONSTRAINT "looks_mark";--> statement-breakpoint
ALTER TABLE "parts" DROP CONSTRAINT "parts_condition";--> statement-breakpoint
ALTER TABLE "snapshots" DROP CONSTRAINT "snapshots_kind";--> statement-breakpoint
ALTER TABLE "spring_looks" DROP CONSTRAINT "spring_looks_mark";--> statement-breakpoint
ALTER TABLE "visits" DROP CONSTRAINT "visits_state";--> statement-breakpoint
DROP INDEX "visits_here";--> statement-breakpoint
ALTER TABLE "parts" ALTER COLUMN "condition" SET DEFAULT 'not-looked-at';--> statement-breakpoint
ALTER TABLE "finding_entries" ADD COLUMN "by_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "looks" ADD COLUMN "point_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "owner_links" ADD COLUMN "edition_id" uuid;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "spot" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "kind" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "received_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "supersedes" uuid;--> statement-breakpoint
ALTER TABLE "run_events" ADD COLUMN "by_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "snapshots" ADD COLUMN "turns" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "run_events" ADD COLUMN "by_role" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "run_events" ADD COLUMN "said" jsonb;--> statement-breakpoint
ALTER TABLE "run_events" ADD COLUMN "clock_ahead_s" integer;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "begins" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "unit_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "craft" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "set_aside_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "state" jsonb;--> statement-breakpoint
ALTER TABLE "report_editions" ADD CONSTRAINT "report_editions_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_editions" ADD CONSTRAINT "report_editions_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_editions" ADD CONSTRAINT "report_editions_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_editions" ADD CONSTRAINT "report_editions_workshop_id_customer_id_customers_workshop_id_id_fk" FOREIGN KEY ("workshop_id","customer_id") REFERENCES "public"."customers"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_editions" ADD CONSTRAINT "report_editions_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_history" ADD CONSTRAINT "unit_history_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_history" ADD CONSTRAINT "unit_history_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_history" ADD CONSTRAINT "unit_history_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "unit_history_in_order" ON "unit_history" USING btree ("workshop_id","unit_id","position");--> statement-breakpoint
ALTER TABLE "owner_links" ADD CONSTRAINT "owner_links_workshop_id_edition_id_report_editions_workshop_id_id_fk" FOREIGN KEY ("workshop_id","edition_id") REFERENCES "public"."report_editions"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "readings_by_key" ON "readings" USING btree ("workshop_id","unit_id","key","at");--> statement-breakpoint
-- Where two runs were open on one unit, the one that was worked on last goes on; the other is set aside with all that is in it.
UPDATE "runs" SET "set_aside_at" = now() WHERE "id" IN (
  SELECT "id" FROM (
    SELECT r."id", row_number() OVER (
      PARTITION BY r."unit_id"
      ORDER BY coalesce((SELECT max(e."received_at") FROM "run_events" e WHERE e."run_id" = r."id"), r."started_at") DESC, r."id"
    ) AS "place"
    FROM "runs" r WHERE r."closed_at" IS NULL
  ) "open" WHERE "place" > 1
);
--> statement-breakpoint
CREATE UNIQUE INDEX "runs_one_open" ON "runs" USING btree ("unit_id") WHERE "runs"."closed_at" is null and "runs"."set_aside_at" is null;--> statement-breakpoint
CREATE INDEX "visits_here" ON "visits" USING btree ("workshop_id","starts_at") WHERE "visits"."state" in ('arrived', 'in-work', 'waiting', 'ready');--> statement-breakpoint
-- A unit's history, in the order in which things happened by the clocks of then.
INSERT INTO "unit_history" ("workshop_id", "unit_id", "kind", "at", "received_at", "person_id", "ref", "body")
SELECT "workshop_id", "unit_id", "kind", "at", "at", "person_id", "ref", "body" FROM (
  SELECT "workshop_id", "unit_id", 'run-closed' AS "kind", "closed_at" AS "at", NULL::uuid AS "person_id", "id" AS "ref", '{}'::jsonb AS "body"
    FROM "runs" WHERE "closed_at" IS NOT NULL
  UNION ALL
  SELECT "workshop_id", "id", 'in-use', "in_use_since", NULL, NULL, '{}'::jsonb FROM "units" WHERE "in_use_since" IS NOT NULL
  UNION ALL
  SELECT "workshop_id", "unit_id", 'map-revised', "at", "person_id", NULL, jsonb_build_object('revision', "revision", 'why', "why")
    FROM "map_revisions" WHERE "revision" > 1
  UNION ALL
  SELECT "workshop_id", "unit_id", 'left', "at", "person_id", "visit_id", jsonb_build_object('lineup', "lineup")
    FROM "snapshots" WHERE "kind" = 'as left'
) "what" ORDER BY "at", "kind", "ref";
--> statement-breakpoint
ALTER TABLE "units" DROP COLUMN "in_use_since";--> statement-breakpoint
-- Ids in place of words; and a record keeps the names and roles of its day.
ALTER TABLE "looks" DISABLE TRIGGER "looks_append_only";
--> statement-breakpoint
ALTER TABLE "snapshots" DISABLE TRIGGER "snapshots_append_only";
--> statement-breakpoint
ALTER TABLE "run_events" DISABLE TRIGGER "run_events_append_only";
--> statement-breakpoint
ALTER TABLE "finding_entries" DISABLE TRIGGER "finding_entries_append_only";
--> statement-breakpoint
UPDATE "looks" SET "mark" = replace("mark", ' ', '-') WHERE "mark" LIKE '% %';
--> statement-breakpoint
UPDATE "snapshots" SET "kind" = replace("kind", ' ', '-');
--> statement-breakpoint
UPDATE "findings" SET "severity" = replace("severity", ' ', '-'), "answer" = replace("answer", ' ', '-');
--> statement-breakpoint
UPDATE "parts" SET "condition" = replace("condition", ' ', '-');
--> statement-breakpoint
UPDATE "spring_looks" SET "mark" = replace("mark", ' ', '-');
--> statement-breakpoint
UPDATE "visits" SET "state" = replace("state", ' ', '-'), "waiting_for" = replace("waiting_for", ' ', '-');
--> statement-breakpoint
UPDATE "run_events" e SET "by_name" = p."name", "by_role" = p."role" FROM "people" p WHERE p."id" = e."person_id";
--> statement-breakpoint
UPDATE "finding_entries" e SET "by_name" = p."name" FROM "people" p WHERE p."id" = e."person_id";
--> statement-breakpoint
UPDATE "runs" r SET "unit_name" = u."name", "craft" = u."craft" FROM "units" u WHERE u."id" = r."unit_id";
--> statement-breakpoint
ALTER TABLE "looks" ENABLE TRIGGER "looks_append_only";
--> statement-breakpoint
ALTER TABLE "snapshots" ENABLE TRIGGER "snapshots_append_only";
--> statement-breakpoint
ALTER TABLE "run_events" ENABLE TRIGGER "run_events_append_only";
--> statement-breakpoint
ALTER TABLE "finding_entries" ENABLE TRIGGER "finding_entries_append_only";
--> statement-breakpoint
CREATE TRIGGER "unit_history_append_only" BEFORE UPDATE OR DELETE ON "unit_history"
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
CREATE TRIGGER "report_editions_append_only" BEFORE UPDATE OR DELETE ON "report_editions"
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_severity" CHECK ("findings"."severity" in ('unsafe', 'will-fail', 'wears', 'note'));--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_answer" CHECK ("findings"."answer" in ('do-it', 'later', 'no'));--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_mark" CHECK ("looks"."mark" in ('good', 'watch', 'bad', 'not-reached', 'not-fitted'));--> statement-breakpoint
ALTER TABLE "parts" ADD CONSTRAINT "parts_condition" CHECK ("parts"."condition" in ('good', 'watch', 'bad', 'not-looked-at'));--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_kind" CHECK ("snapshots"."kind" in ('as-found', 'as-left'));--> statement-breakpoint
ALTER TABLE "spring_looks" ADD CONSTRAINT "spring_looks_mark" CHECK ("spring_looks"."mark" in ('pass', 'fail', 'not-looked-at'));--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_state" CHECK ("visits"."state" in ('booked', 'arrived', 'in-work', 'waiting', 'ready', 'gone'));