import type { FastifyInstance } from "fastify";
import { Refused } from "./errors.ts";

/** Text that no database and no paper can hold: the character U+0000, and halves of characters. */
const broken = (text: string): boolean => text.includes("\u0000") || !text.isWellFormed();

const MOST_DEEP = 60;

/** Where in what was sent such a text stands, or nothing. */
const brokenAt = (value: unknown, at: string, deep = 0): string | undefined => {
  if (typeof value === "string") return broken(value) ? at : undefined;
  if (typeof value !== "object" || value === null || Buffer.isBuffer(value)) return undefined;
  if (deep > MOST_DEEP) return at;
  for (const [key, inner] of Object.entries(value)) {
    if (broken(key)) return at;
    const found = brokenAt(inner, at === "" ? key : `${at}.${key}`, deep + 1);
    if (found !== undefined) return found;
  }
  return undefined;
};

/** Refuses broken text at the door, in body, address and query alike, so that no route has to think of it. */
export const refuseBrokenText = (app: FastifyInstance): void => {
  app.addHook("preValidation", async (request) => {
    const at =
      brokenAt(request.body, "body") ??
      brokenAt(request.query, "query") ??
      brokenAt(request.params, "address");
    if (at !== undefined)
      throw new Refused(
        "bad-request",
        `There is a broken character in ${at}: take it out and send it again.`,
        [{ where: at, problem: "has a broken character" }],
      );
  });
};
