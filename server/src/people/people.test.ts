import { AS_HEADER } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, PASSWORD, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { SESSION_COOKIE } from "./sessions.ts";

let server: TestServer;
let home: TestWorkshop;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
});
afterAll(() => server.close());

const signIn = (name: string, password: string) =>
  server.app.inject({ method: "POST", url: "/api/sign-in", payload: { name, password } });

describe("signing in", () => {
  it("answers who and which workshop, in a cookie that no script and no other site can use", async () => {
    const reply = await signIn(home.signIn("technician"), PASSWORD);
    expect(reply.statusCode).toBe(200);
    expect(reply.json()).toMatchObject({
      person: { name: "T. Ech", role: "technician" },
      workshop: { units: "metric", winterLowC: -18 },
    });
    expect(reply.json()).not.toHaveProperty("person.passwordHash");
    expect(reply.cookies).toMatchObject([
      { name: SESSION_COOKIE, httpOnly: true, sameSite: "Strict", path: "/" },
    ]);
  });

  it.each([
    ["a wrong password", () => signIn(home.signIn("technician"), "wrong")],
    ["a name that nobody has", () => signIn("nobody@home", PASSWORD)],
  ])("refuses %s with the same words", async (_, attempt) => {
    const reply = await attempt();
    expect(reply.statusCode).toBe(401);
    expect(reply.json()).toEqual({
      error: {
        code: "wrong-sign-in",
        message: "Name and password do not go together. Nobody was signed in.",
      },
    });
    expect(reply.cookies).toEqual([]);
  });

  it("slows down whoever guesses", async () => {
    const slow = await openTestServer({ signInsPerMinute: 3 });
    const codes: number[] = [];
    for (let i = 0; i < 5; i++)
      codes.push(
        (
          await slow.app.inject({
            method: "POST",
            url: "/api/sign-in",
            payload: { name: "x", password: "y" },
          })
        ).statusCode,
      );
    expect(codes).toEqual([401, 401, 401, 429, 429]);
    await slow.close();
  });

  it("ends with signing out: the old cookie opens nothing", async () => {
    const opened = await signIn(home.signIn("lead"), PASSWORD);
    const cookies = { [SESSION_COOKIE]: opened.cookies[0]?.value ?? "" };
    expect((await server.app.inject({ url: "/api/me", cookies })).statusCode).toBe(200);
    const out = await server.app.inject({ method: "POST", url: "/api/sign-out", cookies });
    expect(out.headers["clear-site-data"]).toBe('"cache"');
    expect((await server.app.inject({ url: "/api/me", cookies })).statusCode).toBe(401);
  });
});

describe("a page of somebody who was here before", () => {
  it("does nothing in the name of whoever has signed in since, and does not end their session", async () => {
    const [before, now] = [
      await signIn(home.signIn("lead"), PASSWORD),
      await signIn(home.signIn("technician"), PASSWORD),
    ];
    const leadId = before.json<{ person: { id: string } }>().person.id;
    const mine = now.json<{ person: { id: string } }>().person.id;
    const cookies = { [SESSION_COOKIE]: now.cookies[0]?.value ?? "" };
    const note = (as: string) => {
      const payload = { id: randomUUID(), text: "wet" };
      return server.app.inject({
        method: "POST",
        url: `/api/units/${home.unitId}/notes`,
        cookies,
        payload,
        headers: { [AS_HEADER]: as },
      });
    };
    const refused = await note(leadId);
    expect([refused.statusCode, refused.json<{ error: { code: string } }>().error.code]).toEqual([
      401,
      "somebody-else",
    ]);
    expect((await note(mine)).statusCode).toBe(201);
    const { notes } = (
      await server.app.inject({ url: `/api/units/${home.unitId}/notes`, cookies })
    ).json<{ notes: object[] }>();
    expect(notes).toHaveLength(1);
    await server.app.inject({
      method: "POST",
      url: "/api/sign-out",
      cookies,
      headers: { [AS_HEADER]: leadId },
    });
    expect((await server.app.inject({ url: "/api/me", cookies })).statusCode).toBe(200);
  });
});

describe("the server", () => {
  it("says whether its database is up", async () => {
    const reply = await server.app.inject("/api/health");
    expect(reply.json()).toEqual({ ok: true, database: "up" });
  });

  it("describes every route in an OpenAPI document", async () => {
    const document = (await server.app.inject("/api/openapi.json")).json<{
      openapi: string;
      paths: Record<string, unknown>;
    }>();
    expect(document.openapi).toMatch(/^3\./u);
    expect(Object.keys(document.paths)).toEqual(
      expect.arrayContaining([
        "/api/sign-in",
        "/api/units",
        "/api/units/{unitId}/map",
        "/api/visits",
        "/api/runs",
        "/api/runs/{runId}/events",
      ]),
    );
  });

  it("sends the headers that keep a browser safe", async () => {
    const { headers } = await server.app.inject("/api/health");
    expect(headers["content-security-policy"]).toContain("script-src 'self'");
    expect(headers["x-content-type-options"]).toBe("nosniff");
    expect(headers["x-frame-options"]).toBe("SAMEORIGIN");
  });

  it.each([
    [
      "malformed JSON",
      {
        method: "POST" as const,
        url: "/api/sign-in",
        headers: { "content-type": "application/json" },
        payload: "{not json",
      },
      400,
    ],
    [
      "a field that is not known",
      {
        method: "POST" as const,
        url: "/api/sign-in",
        payload: { name: "a", password: "b", admin: true },
      },
      400,
    ],
    [
      "something that is not JSON",
      {
        method: "POST" as const,
        url: "/api/sign-in",
        headers: { "content-type": "text/plain" },
        payload: "hello",
      },
      415,
    ],
    [
      "a body past the limit",
      {
        method: "POST" as const,
        url: "/api/sign-in",
        payload: { name: "a", password: "b".repeat(3_000_000) },
      },
      413,
    ],
    [
      "an address that is not there, asked without a session",
      { method: "GET" as const, url: "/api/teapots" },
      401,
    ],
  ])("answers %s with a code and a sentence", async (_, request, status) => {
    const reply = await server.app.inject(request);
    expect(reply.statusCode).toBe(status);
    expect(reply.json<{ error: { message: string } }>().error.message.length).toBeGreaterThan(5);
    expect(reply.body).not.toMatch(/select|insert|stack|node_modules/iu);
  });
});
