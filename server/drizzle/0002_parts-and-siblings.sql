CREATE TABLE "parts" (
	"workshop_id" uuid NOT NULL,
	"unit_id" uuid NOT NULL,
	"part_id" text NOT NULL,
	"item" text DEFAULT '' NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"tag" text DEFAULT '' NOT NULL,
	"place" text DEFAULT '' NOT NULL,
	"words" text DEFAULT '' NOT NULL,
	"on_map" boolean NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"serial" text DEFAULT '' NOT NULL,
	"size" text DEFAULT '' NOT NULL,
	"fitted_on" date,
	"expected_life_months" integer,
	"condition" text DEFAULT 'not looked at' NOT NULL,
	"looked_at" date,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "parts_unit_id_part_id_item_pk" PRIMARY KEY("unit_id","part_id","item"),
	CONSTRAINT "parts_condition" CHECK ("parts"."condition" in ('good', 'watch', 'bad', 'not looked at')),
	CONSTRAINT "parts_life" CHECK ("parts"."expected_life_months" is null or "parts"."expected_life_months" > 0)
);
--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "sibling_of" uuid;--> statement-breakpoint
ALTER TABLE "units" ADD COLUMN "sibling_revision" integer;--> statement-breakpoint
ALTER TABLE "parts" ADD CONSTRAINT "parts_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parts" ADD CONSTRAINT "parts_workshop_id_unit_id_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","unit_id") REFERENCES "public"."units"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "parts_by_kind" ON "parts" USING btree ("workshop_id","kind","fitted_on");--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_workshop_id_sibling_of_units_workshop_id_id_fk" FOREIGN KEY ("workshop_id","sibling_of") REFERENCES "public"."units"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_sibling_whole" CHECK (("units"."sibling_of" is null) = ("units"."sibling_revision" is null));