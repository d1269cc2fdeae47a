import { vi } from "vitest";

type Answer = (body: unknown) => { status?: number; body: unknown };

/** A server that answers as said, by method and path, and notes what it was asked. What nobody said is not found. */
export const answering = (answers: Readonly<Record<string, Answer>>) => {
  const asked: { route: string; body: unknown }[] = [];
  vi.stubGlobal("fetch", async (given: Request) => {
    const route = `${given.method} ${new URL(given.url).pathname.replace(/^\/api/u, "")}`;
    const words = await given.clone().text();
    const body: unknown = words === "" ? undefined : JSON.parse(words);
    if (given.method !== "GET") asked.push({ route, body });
    const said = answers[route]?.(body) ?? {
      status: 404,
      body: { error: { code: "not-found", message: "There is nothing at this address." } },
    };
    return new Response(JSON.stringify(said.body), {
      status: said.status ?? 200,
      headers: { "content-type": "application/json" },
    });
  });
  return asked;
};
