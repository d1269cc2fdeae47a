import { createHash, randomInt } from "node:crypto";

// Letters and figures that are not taken for one another.
const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
const GROUPS = 3;
const GROUP = 4;

/** A code to be read off one screen and typed on another: twelve signs of 31, near 60 bits. */
export const newCode = (): string =>
  Array.from({ length: GROUPS }, () =>
    Array.from({ length: GROUP }, () => SIGNS[randomInt(SIGNS.length)]).join(""),
  ).join("-");

/** What is kept of a code, or compared with it: however it was typed. */
export const digestOf = (code: string): Buffer =>
  createHash("sha256")
    .update(code.toLowerCase().replaceAll(/[^a-z0-9]/gu, ""))
    .digest();
