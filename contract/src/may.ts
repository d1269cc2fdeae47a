import type { ROLES } from "@uppershed/core/inspection";

export type Role = (typeof ROLES)[number];

/** What can be done in a workshop, and who may. The server goes by it on every route; the screens only mirror it. */
export const DEEDS = {
  look: {
    says: "see everything of the workshop",
    may: ["owner", "lead", "technician", "apprentice", "desk"],
  },
  book: {
    says: "book visits, move them on, keep customers and units",
    may: ["owner", "lead", "technician", "apprentice", "desk"],
  },
  work: {
    says: "do runs, walk-rounds, findings, readings, pictures and notes",
    may: ["owner", "lead", "technician", "apprentice"],
  },
  draw: {
    says: "change water maps and what is kept of parts",
    may: ["owner", "lead", "technician", "apprentice"],
  },
  hand: {
    says: "hand reports over, make and withdraw owners' links",
    may: ["owner", "lead", "technician", "desk"],
  },
  merge: {
    says: "put doubles of customers and units together",
    may: ["owner", "lead", "technician"],
  },
  files: {
    says: "take the register out into files, and files into it",
    may: ["owner", "lead", "technician", "desk"],
  },
  people: {
    says: "invite people, set their roles, let them go, help them to a new password",
    may: ["owner", "lead"],
  },
  house: {
    says: "change the house rules and the places",
    may: ["owner", "lead"],
  },
  stock: {
    says: "keep what the workshop owns: products, instruments, tools",
    may: ["owner", "lead", "technician", "desk"],
  },
  workshop: {
    says: "change the workshop's own facts, see to its backups, take the demo away",
    may: ["owner", "lead"],
  },
  self: {
    says: "change one's own password, end one's own sessions",
    may: ["owner", "lead", "technician", "apprentice", "desk"],
  },
} as const satisfies Record<string, { says: string; may: readonly Role[] }>;

export type Deed = keyof typeof DEEDS;

export const mayDo = (role: Role, deed: Deed): boolean =>
  (DEEDS[deed].may as readonly Role[]).includes(role);
