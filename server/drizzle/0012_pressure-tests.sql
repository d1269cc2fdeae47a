CREATE TABLE "pressure_test_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"by_name" text DEFAULT '' NOT NULL,
	"position" integer NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "pressure_test_entries_in_order" UNIQUE("test_id","position")
);
--> statement-breakpoint
CREATE TABLE "pressure_tests" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"visit_id" uuid,
	"map_revision" integer NOT NULL,
	"title" text NOT NULL,
	"outcome" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "pressure_tests_in_workshop" UNIQUE("workshop_id","id")
);
--> statement-breakpoint
ALTER TABLE "pressure_test_entries" ADD CONSTRAINT "pressure_test_entries_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pressure_test_entries" ADD CONSTRAINT "pressure_test_entries_workshop_id_test_id_pressure_tests_workshop_id_id_fk" FOREIGN KEY ("workshop_id","test_id") REFERENCES "public"."pressure_tests"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pressure_test_entries" ADD CONSTRAINT "pressure_test_entries_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pressure_tests" ADD CONSTRAINT "pressure_tests_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pressure_tests" ADD CONSTRAINT "pressure_tests_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pressure_tests" ADD CONSTRAINT "pressure_tests_workshop_id_visit_id_visits_workshop_id_id_fk" FOREIGN KEY ("workshop_id","visit_id") REFERENCES "public"."visits"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "pressure_tests_by_unit" ON "pressure_tests" USING btree ("workshop_id","unit_id","at");--> statement-breakpoint
CREATE INDEX "pressure_tests_running" ON "pressure_tests" USING btree ("workshop_id","outcome","at");--> statement-breakpoint
CREATE TRIGGER pressure_test_entries_append_only BEFORE UPDATE OR DELETE ON "pressure_test_entries" FOR EACH ROW EXECUTE FUNCTION refuse_change_of_entries();
