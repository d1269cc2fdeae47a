CREATE TABLE "invites" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"token_hash" text NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"person_id" uuid,
	"made_by" uuid NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"withdrawn_at" timestamp with time zone,
	CONSTRAINT "invites_tokenHash_unique" UNIQUE("token_hash"),
	CONSTRAINT "invites_role" CHECK ("invites"."role" in ('owner', 'lead', 'technician', 'apprentice', 'desk'))
);
--> statement-breakpoint
ALTER TABLE "people" DROP CONSTRAINT "people_role";--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "id" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "opened_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "device" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "workshops" ADD COLUMN "is_demo" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "invites" ADD CONSTRAINT "invites_workshop_id_workshops_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invites" ADD CONSTRAINT "invites_workshop_id_person_id_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","person_id") REFERENCES "public"."people"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invites" ADD CONSTRAINT "invites_workshop_id_made_by_people_workshop_id_id_fk" FOREIGN KEY ("workshop_id","made_by") REFERENCES "public"."people"("workshop_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "invites_of_workshop" ON "invites" USING btree ("workshop_id","made_at");--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_id_unique" UNIQUE("id");--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_role" CHECK ("people"."role" in ('owner', 'lead', 'technician', 'apprentice', 'desk'));--> statement-breakpoint
-- What was recorded stays. Only a demo is taken away whole.
CREATE OR REPLACE FUNCTION refuse_change_of_events() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND EXISTS (SELECT 1 FROM workshops w WHERE w.id = OLD.workshop_id AND w.is_demo) THEN
    RETURN OLD;
  END IF;
  RAISE EXCEPTION 'run events are only ever added';
END
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION refuse_change_of_entries() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND EXISTS (SELECT 1 FROM workshops w WHERE w.id = OLD.workshop_id AND w.is_demo) THEN
    RETURN OLD;
  END IF;
  RAISE EXCEPTION '% are only ever added', TG_TABLE_NAME;
END
$$;
--> statement-breakpoint
-- The demo of earlier releases is known by its id.
UPDATE "workshops" SET "is_demo" = true WHERE "id" = 'ee510d1a-07ac-4e64-81ea-191cd1918ea5';
