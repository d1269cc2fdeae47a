-- What was recorded stays: a correction is a new event that names the old one.
CREATE FUNCTION refuse_change_of_events() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'run events are only ever added';
END
$$;
--> statement-breakpoint
CREATE TRIGGER run_events_append_only BEFORE UPDATE OR DELETE ON run_events
  FOR EACH ROW EXECUTE FUNCTION refuse_change_of_events();
