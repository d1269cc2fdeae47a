import type { FastifyReply } from "fastify";

/** Sends bytes that came from outside in a way that no browser runs. */
export const sendInert = (reply: FastifyReply, type: string, data: Buffer, name?: string): FastifyReply =>
  reply
    .header("content-type", type)
    .header("content-security-policy", "default-src 'none'; sandbox")
    .header("cache-control", "private, max-age=86400")
    .header("content-disposition", name === undefined ? "inline" : `attachment; filename="${name}"`)
    .send(data);
