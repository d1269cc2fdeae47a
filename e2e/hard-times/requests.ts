import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { randomUUID } from "node:crypto";
import { chance, type Chance } from "./random.ts";

/**
 * npm run hard:requests: requests made from the server's own OpenAPI document, each broken in one way, and what is answered. Nothing that
 * somebody sends may be a failure of the server.
 *   REQUESTS=50000 SEED=1 npm run hard:requests
 */

const REQUESTS = Number(process.env["REQUESTS"] ?? "50000");
const SEED = Number(process.env["SEED"] ?? "1");
const url = process.env["SERVER_URL"] ?? "";
const password = process.env["DEMO_PASSWORD"] ?? "";
const AT_ONCE = 8;

interface Schema {
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly propertyNames?: Schema;
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly format?: string;
  readonly pattern?: string;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly minItems?: number;
  readonly $ref?: string;
}
interface Operation {
  readonly parameters?: readonly {
    readonly name: string;
    readonly in: string;
    readonly required?: boolean;
    readonly schema?: Schema;
  }[];
  readonly requestBody?: {
    readonly content?: Readonly<Record<string, { readonly schema?: Schema }>>;
  };
}
interface Route {
  readonly method: string;
  readonly path: string;
  readonly operation: Operation;
}
interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components?: { readonly schemas?: Readonly<Record<string, Schema>> };
}

const document = (await (await fetch(`${url}/api/openapi.json`)).json()) as Document;
const resolve = (schema: Schema): Schema => {
  if (!schema.$ref) return schema;
  const name = schema.$ref.split("/").at(-1) ?? "";
  return document.components?.schemas?.[name] ?? {};
};

/** Ids of things that are there, by what they are of, so that most requests get past the door. */
const real: Record<string, string[]> = {};
let cookie = "";

const DEEP = 7;
/** Something that a schema takes. */
const sample = (given: Schema, { next, below, pick }: Chance, name: string, deep = 0): unknown => {
  const schema = resolve(given);
  const inner = (s: Schema, n = name): unknown => sample(s, { next, below, pick }, n, deep + 1);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return pick(schema.enum);
  const either = schema.anyOf ?? schema.oneOf;
  if (either) return inner(pick(either));
  if (schema.allOf) return Object.assign({}, ...schema.allOf.map((s) => inner(s)));
  const type = Array.isArray(schema.type) ? pick(schema.type as string[]) : schema.type;
  if (type === "object" || schema.properties) {
    if (deep > DEEP) return {};
    const fields = Object.entries(schema.properties ?? {}).filter(
      ([field]) => schema.required?.includes(field) || next() < 0.5,
    );
    const made: Record<string, unknown> = Object.fromEntries(
      fields.map(([field, s]) => [field, inner(s, field)]),
    );
    if (typeof schema.additionalProperties === "object" && next() < 0.5)
      made["heater"] = inner(schema.additionalProperties, "heater");
    return made;
  }
  if (type === "array")
    return deep > DEEP
      ? []
      : Array.from({ length: Math.max(schema.minItems ?? 0, below(3)) }, () =>
          inner(schema.items ?? {}),
        );
  if (type === "integer" || type === "number") {
    const [low, high] = [
      Math.max(schema.minimum ?? 0, -1e6),
      Math.min(schema.maximum ?? 1000, 1e6),
    ];
    const at = low + next() * Math.max(0, high - low);
    return type === "integer" ? Math.round(at) : at;
  }
  if (type === "boolean") return next() < 0.5;
  if (type === "null") return null;
  if (type === "string") return word(schema, { next, below, pick }, name);
  // Anything at all, where a water map is meant.
  return next() < 0.7 ? pick(EXAMPLE_MAPS) : { any: "thing" };
};

const word = (schema: Schema, { below, pick, next }: Chance, name: string): string => {
  const known = real[name];
  if (known && known.length > 0 && next() < 0.9) return pick(known);
  if (schema.format === "uuid")
    return next() < 0.5 ? pick(real["unitId"] ?? [randomUUID()]) : randomUUID();
  if (schema.format === "date-time") return new Date(1.7e12 + below(1e9) * 100).toISOString();
  if (schema.format === "date") return "2026-10-14";
  const short = pick([
    "pump",
    "heater",
    "v1",
    "main",
    "Winterize",
    "wet locker",
    "0555 0101",
    "50 %",
  ]);
  return short.padEnd(schema.minLength ?? 0, "x").slice(0, schema.maxLength ?? 200);
};

type Json = unknown;
const isObject = (value: Json): value is Record<string, Json> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Every place in a value, as the way to it. */
const places = (
  value: Json,
  at: readonly (string | number)[] = [],
): (readonly (string | number)[])[] => {
  if (at.length > DEEP) return [at];
  if (Array.isArray(value))
    return [at, ...value.slice(0, 5).flatMap((v, i) => places(v, [...at, i]))];
  if (isObject(value))
    return [
      at,
      ...Object.entries(value)
        .slice(0, 30)
        .flatMap(([k, v]) => places(v, [...at, k])),
    ];
  return [at];
};
const changed = (
  value: Json,
  at: readonly (string | number)[],
  change: (old: Json) => Json,
): Json => {
  const [first, ...rest] = at;
  if (first === undefined) return change(value);
  if (Array.isArray(value))
    return value.map((v, i) => (i === first ? changed(v, rest, change) : v));
  if (!isObject(value)) return value;
  return { ...value, [first]: changed(value[first], rest, change) };
};
const without = (value: Json, at: readonly (string | number)[]): Json => {
  const last = at.at(-1);
  return changed(value, at.slice(0, -1), (old) => {
    if (!isObject(old) || last === undefined) return old;
    const { [String(last)]: _out, ...rest } = old;
    return rest;
  });
};

const ODD_TEXTS = [
  "\u0000",
  "half \ud83d",
  "",
  " ",
  "x".repeat(100_000),
  "\u202Eback",
  "%00",
  "'; drop table units; --",
  "../../etc",
  "{{7*7}}",
  "\n\r",
  "ﷺ".repeat(40),
  "e\u0301".repeat(200),
];
const ODD_NUMBERS = [
  2 ** 31,
  -(2 ** 31) - 1,
  2 ** 53 + 2,
  -1,
  0.1,
  1e308,
  -1e308,
  5e-324,
  -0,
  1e21,
];
const ODD_DATES = [
  "0000-01-01T00:00:00.000Z",
  "9999-12-31T23:59:59.999Z",
  "2026-02-30T00:00:00Z",
  "+275760-09-13T00:00:00.000Z",
  "1970-01-01",
  "tomorrow",
];
// As it stands in an address: no letter, half a letter, a way out.
const RAW_PATHS = ["%00", "%ED%A0%BD", "%zz", "%", "..%2f..%2fetc", "%2e%2e", "a%0d%0ab"];
const ODD_KEYS = [
  "__proto__",
  "constructor",
  "toString",
  "",
  "\u0000",
  "a".repeat(5000),
  "half \udc00",
];

/** The ways in which a request is broken, one at a time. */
const BREAKS: Readonly<Record<string, (value: Json, c: Chance) => Json>> = {
  "a field taken out": (value, c) => without(value, c.pick(places(value))),
  "another type": (value, c) =>
    changed(value, c.pick(places(value)), (old) =>
      c.pick<Json>(
        [null, 0, "words", true, [], {}, [[]], { a: 1 }].filter(
          (x) => typeof x !== typeof old || old === null,
        ),
      ),
    ),
  "odd text": (value, c) => changed(value, c.pick(places(value)), () => c.pick(ODD_TEXTS)),
  "odd number": (value, c) => changed(value, c.pick(places(value)), () => c.pick(ODD_NUMBERS)),
  "odd date": (value, c) => changed(value, c.pick(places(value)), () => c.pick(ODD_DATES)),
  "a strange id": (value, c) =>
    changed(value, c.pick(places(value)), () =>
      c.pick([randomUUID(), "not-an-id", "00000000-0000-0000-0000-000000000000"]),
    ),
  "a field too many": (value, c) =>
    changed(value, c.pick(places(value)), (old) =>
      isObject(old) ? { ...old, [c.pick(ODD_KEYS)]: c.pick<Json>([1, "x", null, {}]) } : old,
    ),
  "very many": (value, c) =>
    changed(value, c.pick(places(value)), (old) =>
      Array.from({ length: 3000 }, () => (Array.isArray(old) ? (old[0] ?? 1) : old)),
    ),
  "very deep": (value, c) =>
    changed(
      value,
      c.pick(places(value)),
      () => JSON.parse("[".repeat(2000) + "]".repeat(2000)) as Json,
    ),
  nothing: () => undefined,
};

/** An address cannot hold half a letter. */
const whole = (text: string): string => text.replaceAll(/\p{Cs}/gu, "\ufffd");

const c = chance(SEED);
const statuses = new Map<number, number>();
const failures: string[] = [];

const send = async (
  method: string,
  path: string,
  init: { body?: string | Buffer | undefined; type?: string; signedOut?: boolean },
): Promise<Response> =>
  fetch(`${url}${path}`, {
    method,
    headers: {
      ...(init.signedOut ? {} : { cookie }),
      ...(init.body === undefined ? {} : { "content-type": init.type ?? "application/json" }),
    },
    ...(init.body === undefined || method === "GET" ? {} : { body: init.body as never }),
    signal: AbortSignal.timeout(60_000),
  });

const addressOf = (route: Route, broken: "path" | "query" | undefined): string => {
  let path = route.path;
  const query = new URLSearchParams();
  for (const { name, in: where, required, schema } of route.operation.parameters ?? []) {
    if (where === "path") {
      const good = String(sample(schema ?? {}, c, name));
      const bad = c.pick([
        ...ODD_TEXTS.filter((t) => t.length < 9000),
        ...ODD_NUMBERS.map(String),
        randomUUID(),
      ]);
      path = path.replace(
        `{${name}}`,
        broken === "path" && c.next() < 0.3
          ? c.pick(RAW_PATHS)
          : encodeURIComponent(whole(broken === "path" ? bad : good)),
      );
    } else if (where === "query" && (required || c.next() < 0.4)) {
      const good = sample(schema ?? {}, c, name);
      const bad = c.pick<unknown>([
        ...ODD_TEXTS.filter((t) => t.length < 9000),
        ...ODD_NUMBERS,
        ...ODD_DATES,
      ]);
      query.append(name, String(broken === "query" ? bad : good));
    }
  }
  if (broken === "query" && c.next() < 0.3) query.append(whole(c.pick(ODD_KEYS)), "1");
  const tail = query.toString();
  return `/api${path.replace(/^\/api/u, "")}${tail ? `?${tail}` : ""}`;
};

const one = async (route: Route): Promise<void> => {
  const content = route.operation.requestBody?.content ?? {};
  const schema = Object.values(content)[0]?.schema;
  const ways: ("path" | "query" | "body" | "raw" | "type" | "signed out")[] = [
    "path",
    "query",
    "signed out",
  ];
  if (schema) ways.push("body", "body", "body", "body", "body", "raw", "type");
  const way = c.pick(ways);
  const path = addressOf(route, way === "path" || way === "query" ? way : undefined);
  const good = schema && sample(schema, c, "body");
  let [body, type, how]: [string | undefined, string, string] = [
    good === undefined ? undefined : JSON.stringify(good),
    "application/json",
    way,
  ];
  if (way === "body") {
    const name = c.pick(Object.keys(BREAKS));
    const value = BREAKS[name]?.(good, c);
    body = value === undefined ? "" : JSON.stringify(value);
    how = name;
  } else if (way === "raw") {
    const text = body ?? "";
    body = c.pick([
      text.slice(0, c.below(Math.max(1, text.length))),
      `${text}x`,
      "",
      "\u0000",
      "NaN",
      '{"a":1e999}',
      '{"__proto__":{"x":1}}',
      `[${text}`,
      "\ufeff{}",
    ]);
  } else if (way === "type")
    type = c.pick([
      "text/plain",
      "application/xml",
      "multipart/form-data",
      "image/png",
      "application/pdf",
      "application/json; charset=utf-16",
    ]);
  try {
    const reply = await send(route.method, path, { body, type, signedOut: way === "signed out" });
    const text = await reply.text();
    statuses.set(reply.status, (statuses.get(reply.status) ?? 0) + 1);
    if (reply.status >= 500)
      failures.push(
        `${reply.status} ${route.method} ${path.slice(0, 160)} (${how}): ${text.slice(0, 160)} <- ${(body ?? "").slice(0, 300)}`,
      );
  } catch (error) {
    const { name, message, cause } = error as Error;
    const why = `${name} ${cause instanceof Error ? cause.message : message}`;
    failures.push(
      `no answer: ${route.method} ${path.slice(0, 160)} (${how}): ${why.slice(0, 200)}`,
    );
  }
};

/** What is there already, so that requests speak of it. */
const learn = async (): Promise<void> => {
  const reply = await send("POST", "/api/sign-in", {
    body: JSON.stringify({ name: "odile", password }),
  });
  cookie = reply.headers.get("set-cookie")?.split(";")[0] ?? "";
  const get = async (path: string): Promise<Record<string, { id: string }[]>> =>
    (await (await send("GET", path, {})).json()) as never;
  const ids = (of: { id: string }[] | undefined): string[] =>
    (of ?? []).map((x) => x.id).slice(0, 40);
  real["unitId"] = ids((await get("/api/units"))["units"]);
  real["visitId"] = ids(
    (await get("/api/visits?from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z"))["visits"],
  );
  real["customerId"] = ids((await get("/api/customers"))["customers"]);
  for (const unit of real["unitId"] ?? []) {
    real["runId"] = [
      ...(real["runId"] ?? []),
      ...ids((await get(`/api/units/${unit}/runs`))["runs"]),
    ];
    real["pictureId"] = [
      ...(real["pictureId"] ?? []),
      ...ids((await get(`/api/units/${unit}/pictures`))["pictures"]),
    ];
    real["findingId"] = [
      ...(real["findingId"] ?? []),
      ...ids((await get(`/api/units/${unit}/findings`))["findings"]),
    ];
  }
  for (const visit of real["visitId"] ?? [])
    real["editionId"] = [
      ...(real["editionId"] ?? []),
      ...ids((await get(`/api/visits/${visit}/editions`))["editions"]),
    ];
  real["partId"] = ["pump", "heater", "v1", "fresh-tank"];
};

await learn();
const routes = Object.entries(document.paths).flatMap(([path, methods]) =>
  Object.entries(methods).flatMap(([method, operation]) =>
    // Signing out would end the work.
    path.endsWith("/sign-out") ? [] : [{ method: method.toUpperCase(), path, operation }],
  ),
);
let left = REQUESTS;
const began = Date.now();
const worker = async (): Promise<void> => {
  while (left > 0) {
    left -= 1;
    if (left % 5000 === 0)
      console.log(`${REQUESTS - left} sent, ${Math.round((Date.now() - began) / 1000)} s`);
    await one(c.pick(routes));
  }
};
await Promise.all(Array.from({ length: AT_ONCE }, worker));
const alive = await fetch(`${url}/api/health`)
  .then((r) => r.status)
  .catch(() => 0);
console.log(
  `\n${REQUESTS} requests (seed ${SEED}) to ${routes.length} routes, each broken one way, in ${Math.round((Date.now() - began) / 1000)} s`,
);
console.log(
  [...statuses]
    .toSorted((a, b) => a[0] - b[0])
    .map(([status, n]) => `${status}: ${n}`)
    .join(", "),
);
console.log(`${failures.length} answers 5xx or none; the server's health afterwards: ${alive}`);
for (const line of failures.slice(0, 40)) console.log(`  ${line}`);
process.exit(failures.length === 0 && alive === 200 ? 0 : 1);
