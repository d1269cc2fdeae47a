import type { FastifyReply } from "fastify";

export interface Inert {
  readonly type: string;
  /** What these bytes are the bytes of: they never change under it. */
  readonly tag: string;
  readonly bytes: () => Promise<Buffer>;
  /** Name of a file that is given out as one; without it the browser shows it. */
  readonly name?: string;
  /** Nothing of it is kept on whatever device asks: for whoever holds only a link. */
  readonly keepNothing?: boolean;
}

/**
 * Sends bytes that came from outside in a way that no browser runs. The browser may keep them for this person, and asks each time whether it
 * still may: after signing out nothing opens from its store.
 */
export const sendInert = async (
  reply: FastifyReply,
  { type, tag, bytes, name, keepNothing = false }: Inert,
): Promise<FastifyReply> => {
  const etag = `"${tag}"`;
  reply
    .header("cache-control", keepNothing ? "no-store" : "private, no-cache")
    .header("vary", "cookie");
  if (!keepNothing) reply.header("etag", etag);
  if (!keepNothing && reply.request.headers["if-none-match"] === etag)
    return reply.code(304).send();
  const data = await bytes();
  return reply
    .header("content-type", type)
    .header("content-security-policy", "default-src 'none'; sandbox")
    .header("content-disposition", name === undefined ? "inline" : `attachment; filename="${name}"`)
    .send(data);
};
