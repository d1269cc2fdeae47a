import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { postgresPrograms } from "../lib/deps.mjs";
import { openCluster } from "../lib/postgres.mjs";
import { ask, ROOT } from "../lib/run.mjs";
import { orElseSay, say, Stuck } from "../lib/say.mjs";

/**
 * Writes a small database as an earlier release wrote it, and what that release said of every record in it.
 *   node --import tsx scripts/release-fixture/make.mjs CHECKOUT NAME
 * CHECKOUT is a folder with that release checked out and its packages installed (its own workspaces linked);
 * what comes out are server/src/testing/releases/NAME.sql and NAME.json. Made once for each release and kept.
 */

const PASSWORD = "correct horse battery";
const START = Date.parse("2025-10-14T08:00:00.000Z");
const idFrom = (words) => {
  const hex = createHash("sha256").update(words).digest("hex");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
};
const minute = (n) => new Date(START + n * 60_000).toISOString();

/** Does a run over HTTP as a person would, the release's own core telling which step comes next. */
class Hand {
  constructor(core, ask, run, person, map, setup) {
    Object.assign(this, { core, ask, run, person, n: 0, clock: 0 });
    this.state = core.startRun(core.buildNetwork(map), setup);
    this.waiting = [];
  }
  do(body, person = this.person) {
    const n = ++this.n;
    const event = { id: idFrom(`${this.run} ${n}`), seq: n, at: minute((this.clock += 2)), body };
    const applied = this.core.applyEvent(this.state, { ...event, by: person });
    if (!applied.ok) throw new Error(`${body.type}: ${applied.problem}`);
    this.state = applied.state;
    this.waiting.push(event);
    return event.id;
  }
  get step() {
    return this.state.todo[0];
  }
  tick() {
    for (const row of this.core.rowsOf(this.step))
      this.do({ type: "row-ticked", stepId: this.step.id, row: row.key, done: true });
  }
  read(ask, si, typed) {
    return this.do({ type: "reading", stepId: this.step.id, ask: ask.key, si, typed });
  }
  /** One step as the engine expects it; every other outlet is read. */
  doStep(own = {}) {
    const step = this.step;
    for (const ask of step.asks) {
      const said = own[ask.key] ?? own[ask.kind];
      if (said) this.read(ask, ...said);
      else if (ask.kind === "temperature") this.read(ask, 24, "24 °C");
      else if (ask.kind === "antifreeze-in") this.read(ask, 0.025, "25 L");
      else if (ask.kind === "recovered")
        this.read(ask, Math.round((ask.expected ?? 0) * 0.98 * 1e4) / 1e4, "as caught");
      else if (ask.kind === "strength" && this.state.done.length % 2 === 0)
        this.read(ask, 0.46, "46 %");
      else if (ask.kind === "antifreeze-left") this.read(ask, 0.0042, "4.2 L");
    }
    this.tick();
    this.do({ type: "step-signed", stepId: step.id });
  }
  doUntil(test) {
    while (this.step && !test(this.step)) this.doStep();
  }
  leave() {
    const { state, core } = this;
    const ends = core
      .looseEnds(state.network, state.physical, state.physical.lineup)
      .filter((e) => e.mustTag);
    this.do({
      type: "as-left",
      lineup: {},
      tagged: ends.map((e) => ({ id: e.id, tag: "Red tag at the switch" })),
      note: "Key at the desk.",
    });
  }
  async send(as) {
    const reply = await as({
      method: "POST",
      url: `/api/runs/${this.run}/events`,
      payload: { events: this.waiting },
    });
    if (reply.statusCode !== 200) throw new Error(`${this.run}: ${reply.body.slice(0, 400)}`);
    this.waiting = [];
  }
}

const RUNS = [
  {
    unit: "plover",
    name: "closed",
    visit: true,
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: {}, note: "As the owner left it on Sunday." });
      h.doUntil((s) => s.id === "drain:lines");
      h.do({
        type: "noticed",
        stepId: "drain:lines",
        part: "pump",
        severity: "wears",
        text: "Head hose chafed at the bulkhead",
      });
      h.doUntil(() => false);
      h.leave();
      h.do({ type: "closed", name: "T. Ech" });
      await h.send(as("technician"));
    },
  },
  {
    unit: "teasel",
    name: "replanned",
    visit: true,
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: { v5: "shut" } });
      h.doUntil((s) => s.id === "drain:lines");
      h.do({
        type: "step-cannot",
        stepId: "drain:lines",
        parts: ["deck-shower"],
        reason: "flap rusted shut",
      });
      h.doUntil((s) => s.id === "fill:galley:hot");
      h.doStep({ strength: [0.2, "20 %"] });
      h.do({ type: "note", text: "Ran the galley twice." });
      h.doUntil(() => false);
      h.leave();
      h.do({ type: "closed", name: "T. Ech" });
      await h.send(as("technician"));
    },
  },
  {
    unit: "burdock",
    name: "countersigned",
    visit: false,
    role: "apprentice",
    work: async (h, as, people) => {
      h.do({ type: "as-found", lineup: {} });
      h.doUntil(() => false);
      h.leave();
      h.do({ type: "closed", name: "A. Prentice" });
      await h.send(as("apprentice"));
      h.do({ type: "countersigned", name: "L. Ead" }, people.lead);
      await h.send(as("lead"));
    },
  },
  {
    unit: "plover",
    name: "corrected",
    visit: false,
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: { pump: "on" } });
      h.doUntil((s) => s.id === "drain:heater");
      h.doStep({ recovered: [0.002, "2 L"] });
      const slip = h.waiting.findLast((e) => e.body.type === "reading").id;
      h.do({
        type: "corrected",
        event: slip,
        reason: "read the wrong line of the bucket",
        si: 0.014,
        typed: "14 L",
      });
      h.doUntil(() => false);
      h.leave();
      h.do({ type: "closed", name: "T. Ech" });
      const strong = h.waiting.findLast(
        (e) => e.body.type === "reading" && e.body.ask.startsWith("strength"),
      ).id;
      h.do({ type: "corrected", event: strong, reason: "lens was fogged", si: 0.4, typed: "40 %" });
      h.do({ type: "note", text: "Gauge cleaned afterwards." });
      await h.send(as("technician"));
    },
  },
  {
    unit: "yonder",
    name: "in doubt",
    visit: false,
    needs: "patterns",
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: {} });
      h.doUntil(() => false);
      h.leave();
      h.do({ type: "closed", name: "T. Ech" });
      await h.send(as("technician"));
    },
  },
  {
    unit: "burdock",
    name: "half done",
    visit: true,
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: {} });
      h.doUntil((s) => s.stage === "fill" && s.asks.some((a) => a.kind === "strength"));
      h.doStep();
      const [row] = h.core.rowsOf(h.step);
      h.do({ type: "row-ticked", stepId: h.step.id, row: row.key, done: true });
      await h.send(as("technician"));
    },
  },
  {
    unit: "yarrow",
    name: "found only",
    visit: false,
    needs: "yarrow",
    work: async (h, as) => {
      h.do({ type: "as-found", lineup: {} });
      await h.send(as("technician"));
    },
  },
  { unit: "teasel", name: "not begun", visit: false, work: async () => undefined },
];

const digest = (value) =>
  createHash("sha256").update(JSON.stringify(value)).digest("hex").slice(0, 16);

/** What the release's own screens would show of a run. */
const saidOf = (core, run) => {
  const read = core.readWaterMap(run.map);
  const network = core.buildNetwork(read.map);
  const { state, refused } = core.replayRun(network, run.setup, run.events);
  const verdict = core.verdictNow(state);
  const position = (key, at) =>
    core.positionLabel(
      network.controls.find((c) => c.key === key),
      at,
    );
  const turns = (lineup) => {
    const use = core.inUseLineup(network);
    return network.controls
      .filter(
        (c) => lineup && c.spec.role !== "check" && (lineup[c.key] ?? "") !== (use[c.key] ?? ""),
      )
      .map((c) => ({
        key: c.key,
        now: position(c.key, lineup[c.key] ?? ""),
        inUse: position(c.key, use[c.key] ?? ""),
      }));
  };
  const step = (s) => ({
    id: s.id,
    title: s.title,
    rows: core.rowsOf(s).map((r) => r.key),
    whole: digest(s),
  });
  return {
    id: run.id,
    unit: run.unitName,
    summary: run.summary,
    startedAt: run.startedAt,
    startedBy: run.startedBy,
    refused: refused.length,
    phase: state.phase,
    holdsToC: verdict.holdsToC,
    weakest: verdict.weakest && { name: verdict.weakest.name, evidence: verdict.weakest.evidence },
    owners: verdict.owners.map((o) => ({
      id: o.id,
      name: o.name,
      state: o.state,
      holdsToC: o.holdsToC,
      evidence: o.evidence,
      source: o.source,
    })),
    doubts: core.doubtsNow ? core.doubtsNow(state) : [],
    cannot: state.cannot,
    done: state.done.map((d) => ({ ...step(d.step), signed: d.signed })),
    todo: state.todo.map(step),
    ticked: state.ticked,
    readings: state.readings,
    notes: state.notes,
    use: core.antifreezeUse(state),
    planned: {
      medianM3: state.firstPlan.antifreeze.medianM3,
      p90M3: state.firstPlan.antifreeze.p90M3,
      holdsToC: state.firstPlan.holdsToC,
    },
    plan: { holdsToC: state.plan.holdsToC, unprotected: state.plan.unprotected },
    asFound: state.asFound && {
      by: state.asFound.by,
      note: state.asFound.note ?? null,
      turns: turns(state.asFound.lineup),
    },
    asLeft: state.asLeft && {
      by: state.asLeft.by,
      note: state.asLeft.note ?? null,
      tagged: state.asLeft.tagged,
      turns: turns(state.physical.lineup),
    },
    looseEnds: core.looseEnds(network, state.physical, state.physical.lineup),
    closed: state.closed ?? null,
    countersigned: state.countersigned ?? null,
    clocks: state.clocks,
    lines: core.waterInLines(network, state.physical),
    // A cell's id is written as "owner" or "owner:cell"; what it holds as water and glycol, m3.
    contents: network.cells.map((c, i) => [
      c.id,
      state.physical.contents[i].source,
      ...state.physical.contents[i].plugs.map((p) => [p.waterM3, p.glycolM3]),
    ]),
  };
};

/** Everything else that an earlier release kept, made over its API where it has one. */
const otherPapers = async (as, units, visits) => {
  const me = as("technician");
  const must = async (options) => {
    const reply = await me(options);
    if (reply.statusCode >= 300) throw new Error(`${options.url}: ${reply.body.slice(0, 300)}`);
    return reply.json();
  };
  const unit = units.plover;
  const visitId = visits.plover;
  const at = minute(30);
  await must({
    method: "POST",
    url: `/api/units/${unit}/looks`,
    payload: {
      looks: [
        {
          id: idFrom("look 1"),
          key: "pump/Mounts firm",
          partId: "pump",
          point: "Mounts firm",
          mark: "good",
          at,
          visitId,
        },
        {
          id: idFrom("look 2"),
          key: "heater/Anode thickness at three places",
          partId: "heater",
          point: "Anode thickness at three places",
          mark: "watch",
          note: "Thin at its end",
          readings: [0.016, 0.015, 0.0131],
          at,
          visitId,
        },
        {
          id: idFrom("look 3"),
          key: "pump/Stops when every tap is shut",
          partId: "pump",
          point: "Stops when every tap is shut",
          mark: "not reached",
          note: "No power",
          at,
          visitId,
        },
      ],
    },
  });
  const finding = async (key, entries) => {
    const id = idFrom(`finding ${key}`);
    for (const [i, body] of entries.entries())
      await must({
        method: "POST",
        url: `/api/units/${unit}/findings/${id}`,
        payload: {
          id: i === 0 ? id : idFrom(`finding ${key} ${i}`),
          at: minute(40 + i),
          mapRevision: 1,
          visitId,
          body,
        },
      });
  };
  await finding("mended", [
    {
      type: "found",
      what: "Hose cracked at the pump",
      severity: "will fail",
      partId: "pump",
      place: "stern locker",
      advice: "Renew it",
    },
    { type: "answered", answer: "do it", who: "Owner, by phone" },
    { type: "mended", how: "New hose, two clips", proof: "ten minutes under pressure, dry" },
  ]);
  await finding("declined", [
    { type: "found", what: "Flue blocked", severity: "unsafe", partId: "heater" },
    { type: "answered", answer: "no", who: "Owner" },
    { type: "accepted", why: "Owner will have it seen to elsewhere" },
  ]);
  await finding("open", [
    {
      type: "found",
      what: "Tap drips",
      severity: "wears",
      cause: "Seat worn",
      partsNeeded: "Cartridge",
      minutes: 20,
    },
  ]);
  await must({
    method: "POST",
    url: `/api/units/${unit}/readings`,
    payload: {
      readings: [
        {
          id: idFrom("reading 1"),
          key: "supply/still",
          label: "Supply, still",
          dimension: "pressure",
          value: 310000,
          typed: "45 psi",
          method: "gauge",
          at,
          visitId,
        },
      ],
    },
  });
  await must({
    method: "POST",
    url: `/api/units/${unit}/notes`,
    payload: {
      text: "Owner keeps the pump fuse in the galley drawer.",
      tried: {
        mapRevision: 1,
        start: "in use",
        lineup: {},
        actions: [{ do: "wait", seconds: 60 }],
      },
    },
  });
  await must({
    method: "POST",
    url: `/api/visits/${visitId}/snapshots`,
    payload: {
      id: idFrom("snapshot 1"),
      kind: "as found",
      mapRevision: 1,
      lineup: { pump: "off" },
      note: "Cold on board.",
      at,
    },
  });
  await must({
    method: "POST",
    url: `/api/visits/${visitId}/snapshots`,
    payload: {
      id: idFrom("snapshot 2"),
      kind: "as left",
      mapRevision: 1,
      lineup: { pump: "off" },
      at: minute(200),
    },
  });
  await must({
    method: "POST",
    url: `/api/units/${unit}/spring`,
    payload: { id: idFrom("spring 1"), item: "battery", mark: "pass", note: "12.7 V", at, visitId },
  });
  await must({
    method: "PATCH",
    url: `/api/visits/${visitId}`,
    payload: { state: "waiting", waitingFor: "the owner", waitingUntil: minute(300) },
  });
  const links = await must({
    method: "POST",
    url: `/api/visits/${visitId}/links`,
    payload: { days: 400 },
  });
  return {
    looks: await must({ url: `/api/units/${unit}/looks` }),
    findings: await must({ url: `/api/units/${unit}/findings` }),
    readings: await must({ url: `/api/units/${unit}/readings` }),
    notes: await must({ url: `/api/units/${unit}/notes` }),
    snapshots: await must({ url: `/api/visits/${visitId}/snapshots` }),
    spring: await must({ url: `/api/units/${unit}/spring` }),
    report: await must({ url: `/api/visits/${visitId}/report` }),
    ownerPath: links.links[0].path,
  };
};

/** Everything that a release's core exports: earlier ones in one list, later ones room by room. */
const coreOf = async (checkout, from) => {
  if (existsSync(join(checkout, "core/src/index.ts"))) return from("core/src/index.ts");
  const { exports } = JSON.parse(readFileSync(join(checkout, "core/package.json"), "utf8"));
  const rooms = await Promise.all(Object.values(exports).map((path) => from(join("core", path))));
  return Object.assign({}, ...rooms);
};

await orElseSay(async () => {
  const [checkout, name] = process.argv.slice(2);
  if (!checkout || !name) throw new Stuck("Give the folder of a release and a name.");
  const from = async (path) => import(pathToFileURL(join(resolve(checkout), path)).href);
  const core = await coreOf(resolve(checkout), from);
  const { buildApp } = await from("server/src/app.ts");
  const { openDatabase, migrateDatabase } = await from("server/src/db.ts");
  const { hashPassword } = await from("server/src/people/passwords.ts");
  const schema = await from("server/src/schema.ts");
  const { scopeFor } = await from("server/src/scope.ts");
  const programs = await postgresPrograms();
  const cluster = await openCluster(programs, join(ROOT, ".shed", `fixture-${process.pid}`), {
    throwAway: true,
  });
  try {
    const database = openDatabase(cluster.url);
    await migrateDatabase(database.db);
    const app = await buildApp(database.db, {
      secureCookies: false,
      signInsPerMinute: 1000,
      requestsPerMinute: 1e5,
      log: false,
    });
    const workshopId = idFrom("workshop");
    await database.db.insert(schema.workshops).values({
      id: workshopId,
      name: "Fixture shed",
      place: "Nowhere",
      units: "metric",
      winterLowC: -18,
    });
    const scope = scopeFor(database.db, workshopId);
    const people = Object.fromEntries(
      [
        ["lead", "L. Ead"],
        ["technician", "T. Ech"],
        ["apprentice", "A. Prentice"],
      ].map(([role, who]) => [role, { id: idFrom(role), name: who, role }]),
    );
    const passwordHash = await hashPassword(PASSWORD);
    await scope.add(
      schema.people,
      Object.values(people).map((p) => ({ ...p, signInName: p.role, passwordHash })),
    );
    const customerId = idFrom("customer");
    await scope.add(schema.customers, { id: customerId, name: "Wren Hollis", phone: "0555 0101" });
    const maps = Object.fromEntries(core.EXAMPLE_MAPS.map((m) => [m.id, m]));
    if (core.PATTERNS) {
      const pattern = core.PATTERNS.find((p) => p.id === "P02") ?? core.PATTERNS[1];
      maps.yonder = core.mapFromPattern(
        pattern,
        {},
        { id: "yonder", name: "Yonder", craft: "trailer" },
      );
      if (maps.yonder.map) maps.yonder = maps.yonder.map;
    }
    const units = {};
    const visits = {};
    const sessions = {};
    for (const role of Object.keys(people)) {
      const reply = await app.inject({
        method: "POST",
        url: "/api/sign-in",
        payload: { name: role, password: PASSWORD },
      });
      const cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
      sessions[role] = (options) => app.inject({ ...options, cookies });
    }
    const as = (role) => sessions[role];
    for (const unit of new Set(RUNS.map((r) => r.unit))) {
      if (!maps[unit]) continue;
      units[unit] = idFrom(`unit ${unit}`);
      await scope.add(schema.units, {
        id: units[unit],
        customerId,
        name: maps[unit].name,
        craft: maps[unit].craft,
        mapRevision: 1,
      });
      await scope.add(schema.mapRevisions, {
        unitId: units[unit],
        revision: 1,
        document: maps[unit],
        personId: people.lead.id,
        why: "drawn",
        at: new Date(START),
      });
      visits[unit] = idFrom(`visit ${unit}`);
      await scope.add(schema.visits, {
        id: visits[unit],
        unitId: units[unit],
        startsAt: new Date(START),
        minutes: 120,
        asked: "Winterize",
        ownerSaid: "Same as last year.",
        state: "booked",
      });
    }
    const setup = core.standardSetup();
    for (const planned of RUNS) {
      if (!units[planned.unit]) continue;
      const id = idFrom(`run ${planned.name}`);
      const person = people[planned.role ?? "technician"];
      const begun = await as(person.role)({
        method: "POST",
        url: "/api/runs",
        payload: {
          id,
          unitId: units[planned.unit],
          visitId: planned.visit ? visits[planned.unit] : null,
          mapRevision: 1,
          setup,
        },
      });
      if (begun.statusCode !== 201) throw new Error(begun.body);
      await planned.work(new Hand(core, as, id, person, maps[planned.unit], setup), as, people);
    }
    const papers = schema.looks ? await otherPapers(as, units, visits) : null;
    const get = async (url) => (await as("lead")({ url })).json();
    const runs = [];
    for (const planned of RUNS.filter((r) => units[r.unit]))
      runs.push({
        name: planned.name,
        ...saidOf(core, await get(`/api/runs/${idFrom(`run ${planned.name}`)}`)),
      });
    const said = {
      workshopId,
      password: PASSWORD,
      units,
      visits,
      papers,
      runs,
      states: Object.fromEntries(
        await Promise.all(
          Object.entries(units).map(async ([key, id]) => [
            key,
            (await get(`/api/units/${id}`)).state,
          ]),
        ),
      ),
      maps: Object.fromEntries(
        await Promise.all(
          Object.entries(units).map(async ([key, id]) => [
            key,
            digest((await get(`/api/units/${id}/map`)).document),
          ]),
        ),
      ),
    };
    await app.close();
    await database.close();
    const url = new URL(cluster.url);
    const dump = ask(
      join(programs, "pg_dump"),
      [
        "--no-owner",
        "--no-privileges",
        "--inserts",
        "--rows-per-insert=200",
        "-h",
        url.hostname,
        "-p",
        url.port,
        "-U",
        url.username,
        url.pathname.slice(1),
      ],
      { env: { ...process.env, PGPASSWORD: url.password }, maxBuffer: 1 << 28 },
    );
    if (!dump.ok) throw new Error(dump.err);
    const out = join(ROOT, "server/src/testing/releases");
    mkdirSync(out, { recursive: true });
    // Lines that only psql understands are left out, so that any client can restore it.
    writeFileSync(
      join(out, `${name}.sql`),
      dump.out
        .split("\n")
        .filter((l) => !l.startsWith("\\") && !l.startsWith("--") && l !== "")
        .join("\n") + "\n",
    );
    writeFileSync(join(out, `${name}.json`), `${JSON.stringify(said)}\n`);
    say(
      `${runs.length} runs: ${runs.map((r) => `${r.name} (${r.phase}, ${r.holdsToC} °C)`).join("; ")}`,
    );
  } finally {
    cluster.stop();
  }
});
