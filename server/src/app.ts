import fastifyCompress from "@fastify/compress";
import fastifyCookie from "@fastify/cookie";
import fastifyEtag from "@fastify/etag";
import fastifyHelmet from "@fastify/helmet";
import fastifyRateLimit from "@fastify/rate-limit";
import fastifyStatic from "@fastify/static";
import fastifySwagger from "@fastify/swagger";
import { AS_HEADER, type Me } from "@uppershed/contract";
import { sql } from "drizzle-orm";
import Fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from "fastify";
import {
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
} from "fastify-type-provider-zod";
import { existsSync } from "node:fs";
import { constants } from "node:zlib";
import { z } from "zod";
import { customersPlugin } from "./customers/plugin.ts";
import type { Db } from "./db.ts";
import { answerErrors } from "./answer-errors.ts";
import { refuseBrokenText } from "./broken-text.ts";
import { problemOf, Refused } from "./errors.ts";
import { findingsPlugin } from "./findings/plugin.ts";
import { refitsPlugin } from "./refits/plugin.ts";
import { pressureTestsPlugin } from "./tests-of-pressure/plugin.ts";
import type { DailyBackups } from "./keeping/daily.ts";
import { countersignPlugin } from "./countersign/plugin.ts";
import { frostWatchPlugin } from "./frost-watch/plugin.ts";
import { housePlugin } from "./house/plugin.ts";
import { keepingPlugin } from "./keeping/plugin.ts";
import { looksPlugin } from "./looks/plugin.ts";
import { mapsPlugin } from "./maps/plugin.ts";
import { notesPlugin } from "./notes/plugin.ts";
import { partsPlugin } from "./parts/plugin.ts";
import { peoplePlugin } from "./people/plugin.ts";
import { nameDeeds, refuseUnless } from "./people/routes.ts";
import { SESSION_COOKIE, whoIs } from "./people/sessions.ts";
import { setUpPlugin } from "./set-up/plugin.ts";
import { picturesPlugin } from "./pictures/plugin.ts";
import { readingsPlugin } from "./readings/plugin.ts";
import { reportsPlugin } from "./reports/plugin.ts";
import { runsPlugin } from "./runs/plugin.ts";
import { type Scope, scopeFor } from "./scope.ts";
import { unitsPlugin } from "./units/plugin.ts";
import { visitsPlugin } from "./visits/plugin.ts";

export interface Settings {
  /** Cookies only over TLS; off on plain loopback. */
  readonly secureCookies: boolean;
  readonly signInsPerMinute: number;
  readonly requestsPerMinute: number;
  /** By which the first workshop is set up; where there is one already, nothing is. */
  readonly setUpCode?: string | undefined;
  /** Where backups are made, if they are. */
  readonly backups?: DailyBackups | undefined;
  /** Behind a proxy: the address of whoever asks is taken from what it says. */
  readonly behindProxy?: boolean;
  /** Folder of the built application, if it is served from here. */
  readonly webRoot?: string;
  readonly log: boolean;
  /** Where the log goes; where not said, to the standard output. */
  readonly logTo?: { readonly write: (line: string) => void };
}

declare module "fastify" {
  interface FastifyInstance {
    db: Db;
    settings: Settings;
    /** Good until it is used. */
    setUpCode: { code: string | undefined };
  }
  interface FastifyRequest {
    me: Me & { readonly sessionId: string };
    scope: Scope;
  }
  interface FastifyContextConfig {
    /** Reached without a session. */
    open?: boolean;
  }
}

const BODY_LIMIT_BYTES = 2 * 1024 * 1024;

// Less is not worth the work.
const COMPRESS_FROM_BYTES = 1024;
// The most that is quick enough to do for each answer anew; files are compressed when they are built.
const BROTLI_QUALITY = 4;

const healthSchema = z.object({ ok: z.boolean(), database: z.enum(["up", "down"]) });

/** Answers carry a mark of what they say, and are asked for again by it; whoever has them already is told only that. A refusal is not kept. */
const askedAgainByMark = (app: FastifyInstance): void => {
  app.addHook("onSend", async (request, reply, payload) => {
    if (
      request.method === "GET" &&
      request.url.startsWith("/api/") &&
      !reply.hasHeader("cache-control")
    )
      reply
        .header("cache-control", reply.statusCode < 400 ? "private, no-cache" : "no-store")
        .header("vary", "cookie");
    return payload;
  });
};

/** A file's name changes with what is in it, but for the page itself and what stands beside it. */
const howLongFilesKeep = (reply: FastifyReply, path: string): void =>
  void reply.header(
    "cache-control",
    /[\\/]assets[\\/]/u.test(path) ? "public, max-age=31536000, immutable" : "no-cache",
  );

/** A request that is finished while the server stops gives its connection back, so that nothing is waited for any longer. */
const letGoWhenStopping = (app: FastifyInstance): void => {
  let stopping = false;
  app.addHook("preClose", async () => {
    stopping = true;
  });
  app.addHook("onSend", async (_request, reply, payload) => {
    if (stopping) reply.header("connection", "close");
    return payload;
  });
};

const READS: ReadonlySet<string> = new Set(["GET", "HEAD", "OPTIONS"]);

/** A page of another site changes nothing here, whatever cookies the browser sends along. */
const refuseOtherSites = (request: FastifyRequest): void => {
  const { origin } = request.headers;
  if (READS.has(request.method) || origin === undefined) return;
  if (URL.canParse(origin) && new URL(origin).host === request.host) return;
  throw new Refused("not-allowed", "That was asked from another site. Nothing was changed.");
};

const headersOf = ({ secureCookies }: Settings) => ({
  contentSecurityPolicy: {
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", "data:", "blob:"],
      fontSrc: ["'self'"],
      workerSrc: ["'self'", "blob:"],
      upgradeInsecureRequests: null,
    },
  },
  strictTransportSecurity: secureCookies,
});

/** Whether the server is up, and what it can be asked. */
const answerHealth = (api: FastifyInstance, db: Db): void => {
  api.get(
    "/health",
    {
      config: { open: true },
      schema: {
        tags: ["server"],
        summary: "Is the server up, and its database",
        response: { 200: healthSchema, 503: healthSchema },
      },
    },
    async (_, reply) => {
      try {
        await db.execute(sql`select 1`);
        return reply.send({ ok: true, database: "up" });
      } catch {
        return reply.code(503).send({ ok: false, database: "down" });
      }
    },
  );
  api.get("/openapi.json", { config: { open: true }, schema: { hide: true } }, async () =>
    api.swagger(),
  );
};

/** The application's own files; every other address is a screen of it. */
const serveScreens = async (app: FastifyInstance, { webRoot }: Settings): Promise<void> => {
  if (!webRoot || !existsSync(webRoot)) return;
  await app.register(fastifyStatic, {
    root: webRoot,
    cacheControl: false,
    preCompressed: true,
    dotfiles: "ignore",
    setHeaders: howLongFilesKeep,
  });
  // Every other address is a screen of the application; a file that is not there is not.
  app.setNotFoundHandler((request, reply) =>
    request.method === "GET" && !request.url.startsWith("/assets/")
      ? reply.sendFile("index.html")
      : reply.code(404).send(problemOf("not-found", "There is nothing at this address.")),
  );
};

const PLUGINS = [
  setUpPlugin,
  peoplePlugin,
  keepingPlugin,
  housePlugin,
  countersignPlugin,
  frostWatchPlugin,
  unitsPlugin,
  mapsPlugin,
  partsPlugin,
  looksPlugin,
  notesPlugin,
  customersPlugin,
  findingsPlugin,
  pressureTestsPlugin,
  refitsPlugin,
  readingsPlugin,
  picturesPlugin,
  reportsPlugin,
  visitsPlugin,
  runsPlugin,
];

export const buildApp = async (db: Db, settings: Settings): Promise<FastifyInstance> => {
  const app = Fastify({
    bodyLimit: BODY_LIMIT_BYTES,
    logger: settings.log
      ? { level: "warn", ...(settings.logTo ? { stream: settings.logTo } : {}) }
      : false,
    // Requests under way are finished when it stops; idle connections are closed.
    forceCloseConnections: "idle",
    return503OnClosing: true,
    trustProxy: settings.behindProxy === true,
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.decorate("db", db);
  app.decorate("settings", settings);
  app.decorate("setUpCode", { code: settings.setUpCode });
  app.decorateRequest("me", null as unknown as Me & { sessionId: string });
  app.decorateRequest("scope", null as unknown as Scope);
  app.removeContentTypeParser("text/plain");
  letGoWhenStopping(app);
  answerErrors(app);
  refuseBrokenText(app);

  await app.register(fastifyHelmet, headersOf(settings));
  await app.register(fastifyCookie);
  askedAgainByMark(app);
  await app.register(fastifyEtag, { weak: true });
  await app.register(fastifyCompress, {
    threshold: COMPRESS_FROM_BYTES,
    encodings: ["br", "gzip"],
    brotliOptions: { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } },
  });
  // Whoever is signed in is counted by their account, so that a workshop behind one address is not one visitor; everybody else by address.
  // A screen is a dozen files: they cost next to nothing and are not counted.
  await app.register(fastifyRateLimit, { global: false });
  const counted = (keyOf: (request: FastifyRequest) => string) =>
    app.createRateLimit({
      max: settings.requestsPerMinute,
      timeWindow: "1 minute",
      keyGenerator: keyOf,
    });
  const [byAddress, byAccount] = [
    counted((request) => `address ${request.ip}`),
    counted((request) => `account ${request.me.person.id}`),
  ];
  const refuseTooMany = async (count: typeof byAddress, request: FastifyRequest): Promise<void> => {
    const found = await count(request);
    if (!found.isAllowed && found.isExceeded)
      throw new Refused(
        "too-many",
        "Too many requests within a minute. Wait a little, then go on.",
      );
  };
  await app.register(fastifySwagger, {
    openapi: {
      info: {
        title: "Upper Shed",
        version: "1",
        description: "Units, water maps, visits and runs of a workshop.",
      },
    },
    transform: jsonSchemaTransform,
  });

  await app.register(
    async (api) => {
      nameDeeds(api);
      api.addHook("onRequest", async (request) => {
        refuseOtherSites(request);
        if (request.routeOptions.config.open) return refuseTooMany(byAddress, request);
        const token = request.cookies[SESSION_COOKIE];
        const me = token ? await whoIs(db, token) : undefined;
        if (!me) {
          await refuseTooMany(byAddress, request);
          throw new Refused("not-signed-in", "Sign in first.");
        }
        // A page that was opened by one person, on a device where another has signed in since: nothing of it is done in the other's name.
        const as = request.headers[AS_HEADER];
        if (as !== undefined && as !== me.person.id)
          throw new Refused(
            "somebody-else",
            "Somebody else has signed in on this device since. Nothing was done in their name.",
          );
        request.me = me;
        await refuseTooMany(byAccount, request);
        refuseUnless(me.person.role, request.routeOptions.config.deed);
        request.scope = scopeFor(db, me.workshop.id);
      });
      answerHealth(api, db);
      for (const plugin of PLUGINS) await api.register(plugin);
      api.setNotFoundHandler((_, reply) =>
        reply.code(404).send(problemOf("not-found", "There is nothing at this address.")),
      );
    },
    { prefix: "/api" },
  );

  await serveScreens(app, settings);
  await app.ready();
  return app;
};
