CREATE TABLE "looks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"key" text NOT NULL,
	"part_id" text,
	"point" text NOT NULL,
	"mark" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"readings" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "looks_mark" CHECK ("looks"."mark" in ('good', 'watch', 'bad', 'not reached', 'not fitted'))
);
--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "looks_by_unit" ON "looks" USING btree ("workshop_id","unit_id","at");