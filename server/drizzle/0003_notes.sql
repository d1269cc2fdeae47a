CREATE TABLE "notes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"text" text NOT NULL,
	"tried" jsonb
);
--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notes_by_unit" ON "notes" USING btree ("workshop_id","unit_id","at");