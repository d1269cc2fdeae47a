import type { Me, People } from "@uppershed/contract";
import { sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, it } from "vitest";
import { PASSWORD, openTestServer, type TestServer } from "../testing/bench.ts";
import { SESSION_COOKIE } from "../people/sessions.ts";
import { newCode } from "../people/codes.ts";
import { isDemoWanted } from "./set-up.ts";

const CODE = "abcd-efgh-jkmn";
let server: TestServer;
afterEach(() => server.close());
const open = async (settings: Parameters<typeof openTestServer>[0] = {}): Promise<void> => {
  server = await openTestServer({ setUpCode: CODE, ...settings });
};

const post = (url: string, payload: object, session?: string) =>
  server.app.inject({
    method: "POST",
    url: `/api${url}`,
    payload,
    ...(session ? { cookies: { [SESSION_COOKIE]: session } } : {}),
  });
const mine = (signInName = "ada") => ({
  code: CODE,
  workshop: { name: "Ford End Boats", place: "Ford End", units: "us", winterLowC: -12 },
  lead: { name: "A. Lead", signInName, password: PASSWORD },
});
const problem = (reply: { json: () => unknown }): string =>
  (reply.json() as { error: { message: string } }).error.message;
const rowsOf = async (workshopId: string): Promise<Record<string, number>> => {
  const tables = await server.database.db.execute<{ name: string }>(
    sql`select table_name as name from information_schema.columns where column_name = 'workshop_id' and table_schema = 'public'`,
  );
  const counts: Record<string, number> = {};
  for (const { name } of tables.rows) {
    const [row] = (
      await server.database.db.execute<{ n: number }>(
        sql`select count(*)::int as n from ${sql.identifier(name)} where workshop_id = ${workshopId}`,
      )
    ).rows;
    counts[name] = row?.n ?? 0;
  }
  return counts;
};

describe("the first start", () => {
  it("makes the workshop and its lead with the printed code, signs in, and is over", async () => {
    await open();
    expect((await server.app.inject("/api/set-up")).json()).toEqual({ needed: true });
    const made = await post("/set-up", { ...mine(), code: " ABCD efgh jkmn " });
    expect(made.statusCode).toBe(201);
    expect(made.json<Me>()).toMatchObject({
      person: { name: "A. Lead", role: "lead" },
      workshop: { name: "Ford End Boats", units: "us", winterLowC: -12, isDemo: false },
    });
    const session = made.cookies.find((c) => c.name === SESSION_COOKIE)?.value;
    const me = await server.app.inject({
      url: "/api/me",
      cookies: { [SESSION_COOKIE]: session ?? "" },
    });
    expect(me.statusCode).toBe(200);
    expect((await server.app.inject("/api/set-up")).json()).toEqual({ needed: false });
    const again = await post("/set-up", mine("bob"));
    expect([again.statusCode, problem(again)]).toEqual([409, expect.stringContaining("already")]);
  });

  it("lets a stranger make nothing, and of two at once only one", async () => {
    await open();
    const wrong = await post("/set-up", { ...mine(), code: newCode() });
    expect([wrong.statusCode, problem(wrong)]).toEqual([403, expect.stringContaining("printed")]);
    const both = await Promise.all([post("/set-up", mine("ada")), post("/set-up", mine("bob"))]);
    // The other is refused: there is a workshop already, or the code was used up a moment ago.
    const [made, refused] = both.toSorted((a, b) => a.statusCode - b.statusCode);
    expect(made?.statusCode).toBe(201);
    expect([403, 409]).toContain(refused?.statusCode);
    const [row] = (
      await server.database.db.execute<{ n: number }>(sql`select count(*)::int as n from workshops`)
    ).rows;
    expect(row?.n).toBe(1);
  });

  it("asks for a password of ten letters, and a winter low that a table reaches", async () => {
    await open();
    const short = await post("/set-up", { ...mine(), lead: { ...mine().lead, password: "short" } });
    const warm = await post("/set-up", {
      ...mine(),
      workshop: { ...mine().workshop, winterLowC: 4 },
    });
    expect([short.statusCode, warm.statusCode]).toEqual([400, 400]);
  });
});

describe("the demo", () => {
  it("is one choice of the set-up, is taken away whole, and does not come back by itself", async () => {
    await open();
    const loaded = (await post("/set-up", { code: CODE, demo: true })).json<{ password: string }>();
    const asLead = await post("/sign-in", { name: "odile", password: loaded.password });
    const { workshop } = asLead.json<Me>();
    expect(workshop.isDemo).toBe(true);
    const other = await server.workshop("real");
    const before = await rowsOf(other.id);
    const own = await other.as("lead");
    expect((await own({ method: "POST", url: "/api/workshop/take-away" })).statusCode).toBe(403);
    const session = asLead.cookies[0]?.value;
    expect((await rowsOf(workshop.id))["run_events"]).toBeGreaterThan(20);
    const gone = await post("/workshop/take-away", {}, session);
    expect(gone.statusCode).toBe(200);
    expect(Object.values(await rowsOf(workshop.id)).filter((n) => n > 0)).toEqual([]);
    expect(await rowsOf(other.id)).toMatchObject({
      units: before["units"],
      people: before["people"],
    });
    expect(await isDemoWanted(server.database.db)).toBe(false);
    expect(
      (await server.app.inject({ url: "/api/me", cookies: { [SESSION_COOKIE]: session ?? "" } }))
        .statusCode,
    ).toBe(401);
  });
});

describe("people", () => {
  const begun = async () => {
    await open();
    const home = await server.workshop("home");
    return { home, lead: await home.as("lead") };
  };
  const inviteSomebody = async (
    lead: Awaited<ReturnType<typeof begun>>["lead"],
    role = "apprentice",
  ): Promise<{ id: string; path: string; expiresAt: string }> =>
    (
      await lead({
        method: "POST",
        url: "/api/people/invites",
        payload: { id: randomUUID(), name: "N. Ew", role, days: 3 },
      })
    ).json();

  it("join by a link that is used once, and are what they were invited as", async () => {
    const { lead } = await begun();
    const { path } = await inviteSomebody(lead);
    const told = await server.app.inject(`/api${path}`);
    expect(told.json()).toEqual({
      workshop: "home",
      name: "N. Ew",
      role: "apprentice",
      signInName: null,
    });
    const taken = await post(path, { signInName: "lead@home", password: PASSWORD });
    expect([taken.statusCode, problem(taken)]).toEqual([409, expect.stringContaining("taken")]);
    const joined = await post(path, { signInName: "new.one", password: PASSWORD });
    expect(joined.json<Me>()).toMatchObject({ person: { name: "N. Ew", role: "apprentice" } });
    expect((await post(path, { signInName: "second", password: PASSWORD })).statusCode).toBe(410);
  });

  it("cannot join by a link that was withdrawn, or whose day is past", async () => {
    const { lead } = await begun();
    const [first, second] = [await inviteSomebody(lead), await inviteSomebody(lead)];
    const withdrawn = await lead({
      method: "POST",
      url: `/api/people/invites/${first.id}/withdraw`,
    });
    expect(withdrawn.json<{ withdrawnAt: string }>().withdrawnAt).toBeTruthy();
    await server.database.db.execute(
      sql`update invites set expires_at = now() - interval '1 minute' where id = ${second.id}`,
    );
    for (const { path } of [first, second])
      expect((await post(path, { signInName: "new.one", password: PASSWORD })).statusCode).toBe(
        410,
      );
  });

  it("that leave are let in no more, and stay in the list; the last who can invite does not leave", async () => {
    const { home, lead } = await begun();
    const tech = await home.as("technician");
    const { people } = (await lead({ url: "/api/people" })).json<People>();
    const idOf = (role: string): string => people.find((p) => p.role === role)?.id ?? "";
    const change = (id: string, payload: object) =>
      lead({ method: "PATCH", url: `/api/people/${id}`, payload });
    const left = (await change(idOf("technician"), { left: true })).json<People>();
    expect(left.people.find((p) => p.role === "technician")?.leftAt).toBeTruthy();
    expect((await tech({ url: "/api/me" })).statusCode).toBe(401);
    const again = await post("/sign-in", { name: home.signIn("technician"), password: PASSWORD });
    expect(again.statusCode).toBe(401);
    const owner = await home.as("owner");
    const bye = { method: "PATCH", url: `/api/people/${idOf("owner")}`, payload: { left: true } };
    expect((await owner(bye as never)).statusCode).toBe(200);
    for (const payload of [{ left: true }, { role: "technician" }]) {
      const refused = await change(idOf("lead"), payload);
      expect([refused.statusCode, problem(refused)]).toEqual([
        409,
        expect.stringContaining("Nobody"),
      ]);
    }
  });

  it("that leave, or may not invite any more, leave no door open behind them", async () => {
    const { home, lead } = await begun();
    const owner = await home.as("owner");
    const { people } = (await lead({ url: "/api/people" })).json<People>();
    const idOf = (role: string): string => people.find((p) => p.role === role)?.id ?? "";
    const mineAsLead = await inviteSomebody(lead, "lead");
    const ofOwner = await inviteSomebody(owner);
    const reset = (
      await owner({
        method: "POST",
        url: `/api/people/${idOf("technician")}/reset`,
        payload: { id: randomUUID() },
      })
    ).json<{ path: string }>();
    const change = (id: string, payload: object) =>
      owner({ method: "PATCH", url: `/api/people/${id}`, payload });
    expect((await change(idOf("lead"), { role: "technician" })).statusCode).toBe(200);
    expect((await change(idOf("technician"), { left: true })).statusCode).toBe(200);
    for (const path of [mineAsLead.path, reset.path])
      expect((await post(path, { signInName: "back", password: PASSWORD })).statusCode).toBe(410);
    expect((await server.app.inject(`/api${ofOwner.path}`)).statusCode).toBe(200);
  });

  it("come to a new password by a lead's link, and are signed out everywhere by it", async () => {
    const { home, lead } = await begun();
    const tech = await home.as("technician");
    const { people } = (await lead({ url: "/api/people" })).json<People>();
    const id = people.find((p) => p.role === "technician")?.id ?? "";
    const { path } = (
      await lead({ method: "POST", url: `/api/people/${id}/reset`, payload: { id: randomUUID() } })
    ).json<{ path: string }>();
    expect((await tech({ url: "/api/me" })).statusCode).toBe(200);
    expect((await post(path, { password: "another password" })).statusCode).toBe(201);
    expect((await tech({ url: "/api/me" })).statusCode).toBe(401);
    const name = home.signIn("technician");
    expect((await post("/sign-in", { name, password: PASSWORD })).statusCode).toBe(401);
    expect((await post("/sign-in", { name, password: "another password" })).statusCode).toBe(200);
  });

  it("change their own password with the one of now; see and end their sessions", async () => {
    const { home } = await begun();
    const [here, there] = [await home.as("technician"), await home.as("technician")];
    const change = (now: string) =>
      here({ method: "POST", url: "/api/me/password", payload: { now, next: "a longer one yet" } });
    expect((await change("wrong")).statusCode).toBe(401);
    expect((await there({ url: "/api/me" })).statusCode).toBe(200);
    expect((await change(PASSWORD)).statusCode).toBe(200);
    expect((await there({ url: "/api/me" })).statusCode).toBe(401);
    const { sessions } = (await here({ url: "/api/me/sessions" })).json<{
      sessions: { id: string; here: boolean }[];
    }>();
    expect(sessions.map((s) => s.here)).toEqual([true]);
    const ended = await here({ method: "POST", url: `/api/me/sessions/${sessions[0]?.id}/end` });
    expect(ended.statusCode).toBe(200);
    expect((await here({ url: "/api/me" })).statusCode).toBe(401);
  });

  it("change nothing by a page of another site", async () => {
    const { home } = await begun();
    const tech = await home.as("technician");
    const note = (origin: string) =>
      tech({
        method: "POST",
        url: `/api/units/${home.unitId}/notes`,
        payload: { id: randomUUID(), text: "wet" },
        headers: { origin, host: "shed.example" },
      });
    expect((await note("https://elsewhere.example")).statusCode).toBe(403);
    expect((await note("null")).statusCode).toBe(403);
    expect((await note("https://shed.example")).statusCode).toBe(201);
  });
});
