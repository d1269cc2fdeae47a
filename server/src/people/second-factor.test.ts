import { randomUUID } from "node:crypto";
import { TOTP } from "otpauth";
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { openTestServer, PASSWORD, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
afterEach(() => vi.useRealTimers());

let count = 0;
const fresh = (): Promise<TestWorkshop> => server.workshop(`factor${++count}`);
type Person = Awaited<ReturnType<TestWorkshop["as"]>>;

const post = (by: Person, url: string, payload: object) => by({ method: "POST", url, payload });
const signIn = (workshop: TestWorkshop, code?: string) =>
  server.app.inject({
    method: "POST",
    url: "/api/sign-in",
    payload: { name: workshop.signIn("technician"), password: PASSWORD, ...(code ? { code } : {}) },
  });
const codeOf = (secret: string, at = Date.now()): string =>
  new TOTP({ secret }).generate({ timestamp: at });
const PERIOD_MS = 30_000;

/** A technician of whom a second factor is asked. */
const withFactor = async () => {
  const workshop = await fresh();
  const me = await workshop.as("technician");
  const { secret, uri } = (await post(me, "/api/me/second-factor", { password: PASSWORD })).json<{
    secret: string;
    uri: string;
  }>();
  const proved = await post(me, "/api/me/second-factor/prove", { code: codeOf(secret) });
  expect(proved.statusCode).toBe(200);
  return { workshop, me, secret, uri, recovery: proved.json<{ recovery: string[] }>().recovery };
};
const codeNext = (secret: string): string => codeOf(secret, Date.now() + PERIOD_MS);

describe("a second factor", () => {
  // RFC 6238 appendix B, SHA-1: at 59 s the code of the secret "12345678901234567890" is 94287082, of which six figures are asked.
  it("is the one of the standard", () => {
    const secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ";
    expect(codeOf(secret, 59_000)).toBe("287082");
  });

  it("is asked for only once it was proved, and then with every signing in", async () => {
    const workshop = await fresh();
    const me = await workshop.as("technician");
    const begun = await post(me, "/api/me/second-factor", { password: PASSWORD });
    expect(begun.json<{ uri: string }>().uri).toMatch(/^otpauth:\/\/totp\/.*Upper%20Shed/u);
    expect((await signIn(workshop)).statusCode).toBe(200);
    const { secret } = begun.json<{ secret: string }>();
    const wrong = await post(me, "/api/me/second-factor/prove", { code: "000 000" });
    expect(wrong.statusCode).toBe(401);
    expect((await signIn(workshop)).statusCode).toBe(200);
    await post(me, "/api/me/second-factor/prove", { code: codeOf(secret) });
    const asked = await signIn(workshop);
    expect(asked.statusCode).toBe(401);
    expect(asked.json<{ error: { code: string } }>().error.code).toBe("code-needed");
    expect(asked.cookies).toEqual([]);
    expect((await signIn(workshop, codeNext(secret))).statusCode).toBe(200);
  });

  it("takes no code twice, and none of another minute", async () => {
    const { workshop, secret } = await withFactor();
    const next = codeNext(secret);
    const both = await Promise.all([signIn(workshop, next), signIn(workshop, next)]);
    expect(both.map((r) => r.statusCode).toSorted((a, b) => a - b)).toEqual([200, 401]);
    expect((await signIn(workshop, next)).statusCode).toBe(401);
    expect((await signIn(workshop, codeOf(secret, Date.now() - 10 * 60_000))).statusCode).toBe(401);
  });

  it("has recovery codes, each good once, however they are typed", async () => {
    const { workshop, me, recovery } = await withFactor();
    expect(new Set(recovery).size).toBe(8);
    const [first = "", second = ""] = recovery;
    expect((await signIn(workshop, first.toUpperCase().replaceAll("-", " "))).statusCode).toBe(200);
    expect((await signIn(workshop, first)).statusCode).toBe(401);
    expect((await signIn(workshop, second)).statusCode).toBe(200);
    const left = (await me({ url: "/api/me/second-factor" })).json<{ recoveryLeft: number }>();
    expect(left.recoveryLeft).toBe(6);
  });

  it("is begun and taken off with the password only, and taken off with a code besides", async () => {
    const { me, workshop, recovery } = await withFactor();
    const no = await post(me, "/api/me/second-factor", { password: "a wrong password" });
    expect(no.statusCode).toBe(401);
    const end = (password: string, code: string) =>
      post(me, "/api/me/second-factor/end", { password, code });
    expect((await end("a wrong password", recovery[0] ?? "")).statusCode).toBe(401);
    expect((await end(PASSWORD, "123456")).statusCode).toBe(401);
    expect((await end(PASSWORD, recovery[0] ?? "")).statusCode).toBe(200);
    expect((await signIn(workshop)).statusCode).toBe(200);
  });

  it("that somebody has lost begins anew by a link of the lead, with the password", async () => {
    const { workshop } = await withFactor();
    const lead = await workshop.as("lead");
    const { people } = (await lead({ url: "/api/people" })).json<{
      people: { id: string; role: string; secondFactor: boolean }[];
    }>();
    const technician = people.find((p) => p.role === "technician");
    expect(technician?.secondFactor).toBe(true);
    const made = await post(lead, `/api/people/${technician?.id}/reset`, { id: randomUUID() });
    const joined = await server.app.inject({
      method: "POST",
      url: `/api${made.json<{ path: string }>().path}`,
      payload: { password: PASSWORD },
    });
    expect(joined.statusCode).toBe(201);
    expect((await signIn(workshop)).statusCode).toBe(200);
  });

  it("is not written down where it is told who is signed in", async () => {
    const { me, secret } = await withFactor();
    expect((await me({ url: "/api/me" })).body).not.toContain(secret);
  });
});

describe("an owner", () => {
  it("is made, changed and helped to a new password by owners only, once there is one", async () => {
    const workshop = await fresh();
    const [lead, owner] = [await workshop.as("lead"), await workshop.as("owner")];
    const { people } = (await lead({ url: "/api/people" })).json<{
      people: { id: string; role: string }[];
    }>();
    const idOf = (role: string) => people.find((p) => p.role === role)?.id;
    const change = (by: Person, who: string, payload: object) =>
      by({ method: "PATCH", url: `/api/people/${idOf(who)}`, payload });
    const invite = (by: Person) =>
      post(by, "/api/people/invites", { id: randomUUID(), name: "N", role: "owner", days: 2 });
    expect((await change(lead, "owner", { left: true })).statusCode).toBe(403);
    expect((await change(lead, "desk", { role: "owner" })).statusCode).toBe(403);
    expect((await invite(lead)).statusCode).toBe(403);
    expect(
      (await post(lead, `/api/people/${idOf("owner")}/reset`, { id: randomUUID() })).statusCode,
    ).toBe(403);
    expect((await invite(owner)).statusCode).toBe(201);
    expect((await change(owner, "owner", { left: true })).statusCode).toBe(200);
    expect((await change(lead, "desk", { role: "owner" })).statusCode).toBe(200);
  });
});
