CREATE TABLE "forecasts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"place_id" uuid NOT NULL,
	"day" date NOT NULL,
	"low_c" real NOT NULL,
	"brought_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "forecasts_by_night" UNIQUE("workshop_id","place_id","day")
);
--> statement-breakpoint
ALTER TABLE "forecasts" ADD CONSTRAINT "forecasts_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "forecasts" ADD CONSTRAINT "forecasts_workshop_id_place_id_places_workshop_id_id_fk" FOREIGN KEY ("workshop_id","place_id") REFERENCES "public"."places"("workshop_id","id") ON DELETE cascade ON UPDATE no action;