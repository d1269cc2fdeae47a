import ICAL from "ical.js";

/** Clocks as a calendar file: a tablet that is locked, or has no signal, rings by its own calendar (RFC 5545). */

export interface ClockTold {
  readonly label: string;
  /** ISO. */
  readonly endsAt: string;
}

/**
 * @param of what the clocks are of: the unit's name
 * @param now ISO, stamped on it
 */
export const writeClocksIcs = (of: string, clocks: readonly ClockTold[], now: string): string => {
  const calendar = new ICAL.Component(["vcalendar", [], []]);
  calendar.addPropertyWithValue("version", "2.0");
  calendar.addPropertyWithValue("prodid", "-//Upper Shed//Clocks//EN");
  const time = (iso: string): ICAL.Time => ICAL.Time.fromJSDate(new Date(iso), true);
  for (const clock of clocks) {
    const event = new ICAL.Component("vevent");
    event.addPropertyWithValue(
      "uid",
      `${of}-${clock.label}-${clock.endsAt}`.replaceAll(/[^\w-]/gu, "-"),
    );
    event.addPropertyWithValue("dtstamp", time(now));
    event.addPropertyWithValue("dtstart", time(clock.endsAt));
    event.addPropertyWithValue("summary", `${of}: ${clock.label}`);
    const alarm = new ICAL.Component("valarm");
    alarm.addPropertyWithValue("action", "DISPLAY");
    alarm.addPropertyWithValue("description", `${of}: ${clock.label}`);
    alarm.addPropertyWithValue("trigger", ICAL.Duration.fromSeconds(0));
    event.addSubcomponent(alarm);
    calendar.addSubcomponent(event);
  }
  return `${calendar.toString()}\r\n`;
};
