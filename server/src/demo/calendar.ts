/** The demo's calendar: it follows today's date. */

/** A moment on a day near the given one, in UTC. */
export const on = (now: Date, days: number, hours: number, minutes = 0): Date => {
  const at = new Date(now);
  at.setUTCDate(at.getUTCDate() + days);
  at.setUTCHours(hours, minutes, 0, 0);
  return at;
};

export interface DemoVisit {
  readonly key: string;
  readonly map: string;
  readonly startsAt: Date;
  readonly minutes: number;
  readonly bay: string;
  readonly asked: string;
  readonly ownerSaid: string;
  readonly state: "booked" | "arrived" | "gone";
  readonly jobs?: string[];
}

export const visitsOf = (now: Date): DemoVisit[] => [
  {
    key: "plover 1",
    map: "plover",
    startsAt: on(now, -364, 8, 30),
    minutes: 120,
    bay: "pontoon 12",
    asked: "Winterize",
    ownerSaid: "Going away until spring.",
    state: "gone",
  },
  {
    key: "plover spring",
    map: "plover",
    startsAt: on(now, -231, 15),
    minutes: 240,
    bay: "pontoon 12",
    asked: "De-winterize and sanitize",
    ownerSaid: "First trip is at the week's end.",
    state: "gone",
    jobs: ["spring", "sanitize"],
  },
  {
    key: "teasel",
    map: "teasel",
    startsAt: on(now, 0, 9),
    minutes: 130,
    bay: "bay 3",
    asked: "Winterize",
    ownerSaid: "Deck shower drips. Heater was on this morning.",
    state: "arrived",
  },
  {
    key: "burdock",
    map: "burdock",
    startsAt: on(now, 0, 13),
    minutes: 120,
    bay: "yard",
    asked: "Winterize",
    ownerSaid: "Used it last weekend, tank half full.",
    state: "booked",
  },
  {
    key: "plover 2",
    map: "plover",
    startsAt: on(now, 1, 9),
    minutes: 120,
    bay: "pontoon 12",
    asked: "Winterize",
    ownerSaid: "Same as last year, please.",
    state: "booked",
  },
  {
    key: "burdock 2",
    map: "burdock",
    startsAt: on(now, 3, 10),
    minutes: 45,
    bay: "yard",
    asked: "Look at the outside shower flap",
    ownerSaid: "",
    state: "booked",
    jobs: ["repair"],
  },
  {
    key: "yarrow 1",
    map: "yarrow",
    startsAt: on(now, -20, 8, 30),
    minutes: 150,
    bay: "yard",
    asked: "Winterize",
    ownerSaid: "Off abroad until May.",
    state: "gone",
  },
];

/** Done this autumn, so many days ago, and by whom; in summer everything is in use, and only the last of them still stands as it was left. */
export const DONE = [
  { map: "haywain", days: -26, by: "amadi" },
  { map: "sundew", days: -24, by: "odile" },
  { map: "turnstone", days: -17, by: "amadi" },
  { map: "dipper", days: -5, by: "tam" },
] as const;

/** From October to March most units lie winterized (the months of the northern half). */
export const isWinter = (now: Date): boolean => now.getUTCMonth() >= 9 || now.getUTCMonth() <= 2;

const DONE_WORDS = {
  haywain: ["yard", "Winterize, back in April", "The drain by the second bunk sticks."],
  sundew: ["dinghy park", "Winterize before it is laid up", ""],
  turnstone: ["bay 3", "Winterize for the charter's rest", "Goes back on its mooring after."],
  dipper: ["ranger slip", "Winterize", "We need her again in the first mild week."],
} as const;

/** The visit on which a unit was winterized this autumn. */
export const doneVisit = (map: (typeof DONE)[number]["map"], startsAt: Date): DemoVisit => {
  const [bay, asked, ownerSaid] = DONE_WORDS[map];
  return { key: `${map} 1`, map, startsAt, minutes: 150, bay, asked, ownerSaid, state: "gone" };
};

const ACCEPTED: Readonly<Record<string, string>> = {
  turnstone: "The heads are drained by the charter's own man before the first hard night",
  dipper: "She is hauled out into the ranger barn next week, which is kept at 6 °C",
  yarrow: "The accumulator comes off with the pump in December",
};

/** Why an owner took a unit back that does not hold the winter low. */
export const whyAccepted = (map: string): string => ACCEPTED[map] ?? "It goes into a heated hall";
