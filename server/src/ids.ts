import { createHash } from "node:crypto";

/** An id made from words: the same words, the same id (RFC 9562, in the form of version 4). */
export const idFrom = (words: string): string => {
  const hex = createHash("sha256").update(words).digest("hex");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
};
