import type { ApiProblem } from "@uppershed/contract";

/** Every failure that a caller can meet: its code and status stand here, and nowhere else. */
export const ERRORS = {
  "bad-request": 400,
  "not-signed-in": 401,
  "somebody-else": 401,
  "wrong-sign-in": 401,
  "code-needed": 401,
  "not-allowed": 403,
  "not-found": 404,
  conflict: 409,
  waits: 409,
  "acceptance-needed": 409,
  "too-large": 413,
  "not-json": 415,
  "not-a-picture": 415,
  "not-a-paper": 415,
  gone: 410,
  impossible: 422,
  "too-many": 429,
  unavailable: 503,
  failed: 500,
} as const;

export type ErrorCode = keyof typeof ERRORS;

/** Thrown by routes and services; becomes the reply of its code. */
export class Refused extends Error {
  readonly code: ErrorCode;
  readonly fields: NonNullable<ApiProblem["error"]["fields"]> | undefined;
  constructor(code: ErrorCode, message: string, fields?: ApiProblem["error"]["fields"]) {
    super(message);
    this.code = code;
    this.fields = fields;
  }
}

export const problemOf = (
  code: string,
  message: string,
  fields?: ApiProblem["error"]["fields"],
): ApiProblem => ({
  error: { code, message, ...(fields ? { fields } : {}) },
});

/** An id that was made elsewhere and is another's already. */
export const idTaken = (): Refused =>
  new Refused("conflict", "That id is taken. Nothing was changed.");

export const notFound = (what: string): Refused =>
  new Refused("not-found", `There is no such ${what} in this workshop.`);
