import type { FastifyInstance, FastifyReply, FastifyRequest } from "fastify";
import { hasZodFastifySchemaValidationErrors } from "fastify-type-provider-zod";
import { type ErrorCode, ERRORS, problemOf, Refused } from "./errors.ts";

type Failure = Error & { statusCode?: number; code?: string };

/** What PostgreSQL says, by its codes, as it is answered; its own words never leave the server. */
const DATABASE: Readonly<Record<string, readonly [ErrorCode, string]>> = {
  // unique_violation
  "23505": ["conflict", "That id is taken. Nothing was changed."],
  // foreign_key_violation
  "23503": ["conflict", "Something that it names is not there. Nothing was changed."],
  // lock_not_available, deadlock_detected, query_canceled, serialization_failure
  "55P03": ["unavailable", "Somebody else is writing there. Nothing was changed; try again."],
  "40P01": ["unavailable", "Somebody else is writing there. Nothing was changed; try again."],
  "40001": ["unavailable", "Somebody else is writing there. Nothing was changed; try again."],
  "57014": ["unavailable", "That took too long. Nothing was changed; try again."],
  // admin_shutdown, crash_shutdown, cannot_connect_now
  "57P01": ["unavailable", "The database is away for a moment. Nothing was changed; try again."],
  "57P02": ["unavailable", "The database is away for a moment. Nothing was changed; try again."],
  "57P03": ["unavailable", "The database is away for a moment. Nothing was changed; try again."],
  ECONNREFUSED: [
    "unavailable",
    "The database is away for a moment. Nothing was changed; try again.",
  ],
  ECONNRESET: ["unavailable", "The database is away for a moment. Nothing was changed; try again."],
};
// Class 22, data_exception: a value that the database cannot hold. Class 08, connection_exception.
const BY_CLASS: Readonly<Record<string, readonly [ErrorCode, string]>> = {
  "22": ["impossible", "A value in it cannot be kept. Nothing was changed."],
  "08": ["unavailable", "The database is away for a moment. Nothing was changed; try again."],
};

// A sentence that a person reads names a few; a program gets more.
const NAMED = 5;
const MOST_FIELDS = 100;

const CODE = /^[0-9A-Z]{5}$/u;
const LOST = /terminat|connection|timeout exceeded/iu;

const causeOf = (error: Failure): { code: string; message: string } => {
  let now: { code?: string; message?: string; cause?: unknown } | undefined = error;
  while (now && !(now.code && (CODE.test(now.code) || now.code.startsWith("ECONN"))))
    now = now.cause as typeof now;
  const inner = (error.cause as { message?: string } | undefined)?.message ?? error.message;
  return { code: now?.code ?? "", message: inner };
};

/** The answer to what the database could not do, or nothing where it was not the database. */
const databaseAnswer = (error: Failure): readonly [ErrorCode, string] | undefined => {
  const { code, message } = causeOf(error);
  const known = DATABASE[code] ?? (CODE.test(code) ? BY_CLASS[code.slice(0, 2)] : undefined);
  if (known) return known;
  // A connection that is lost in the middle of something has no code, only words.
  return code === "" && error.name === "DrizzleQueryError" && LOST.test(message)
    ? BY_CLASS["08"]
    : undefined;
};

/** Method, route and cause of a failure, never what was sent. */
const note = (request: FastifyRequest, error: Failure): void => {
  const { code } = causeOf(error);
  request.log.error(
    {
      method: request.method,
      route: request.routeOptions.url ?? "none",
      cause: code || error.code || error.name,
      id: request.id,
    },
    "request failed",
  );
};

const answer = (error: Failure, request: FastifyRequest, reply: FastifyReply): FastifyReply => {
  if (hasZodFastifySchemaValidationErrors(error)) {
    const fields = error.validation.map((v) => ({
      where: v.instancePath.replace(/^\//u, "").replaceAll("/", ".") || "request",
      problem: v.message ?? "",
    }));
    const named = fields.slice(0, NAMED).map((f) => `${f.where}: ${f.problem}`);
    const more = fields.length > NAMED ? `; and ${fields.length - NAMED} more` : "";
    return reply
      .code(400)
      .send(
        problemOf(
          "bad-request",
          `Something in the request is wrong: ${named.join("; ")}${more}`,
          fields.slice(0, MOST_FIELDS),
        ),
      );
  }
  if (error instanceof Refused)
    return reply.code(ERRORS[error.code]).send(problemOf(error.code, error.message, error.fields));
  const known = databaseAnswer(error);
  if (known) {
    if (known[0] === "unavailable") note(request, error);
    return reply.code(ERRORS[known[0]]).send(problemOf(known[0], known[1]));
  }
  const status = error.statusCode ?? 500;
  if (status === 413)
    return reply
      .code(413)
      .send(problemOf("too-large", "That is more than this server takes in one request."));
  if (status === 415)
    return reply
      .code(415)
      .send(problemOf("not-json", "That kind of content is not taken at this address."));
  if (status === 429)
    return reply.code(429).send(problemOf("too-many", "Too many tries. Wait a minute."));
  if (status >= 400 && status < 500)
    return reply
      .code(status)
      .send(
        problemOf(
          "bad-request",
          status === 400 ? "The request is not well-formed." : error.message,
        ),
      );
  note(request, error);
  return reply
    .code(500)
    .send(problemOf("failed", "Something went wrong here. Nothing was changed; try again."));
};

/** Whatever goes wrong becomes a code and a sentence; nothing of the database's own words leaves the server. */
export const answerErrors = (app: FastifyInstance): void => {
  app.setErrorHandler((error: Failure, request, reply) => answer(error, request, reply));
};
