/** Bytes and text of files from outside: read within bounds, or refused with a reason. */

/** Largest file taken, bytes: a map of 400 parts is about 150 kB. */
export const MOST_BYTES = 2 * 1024 * 1024;

export interface FileProblem {
  /** Line of the file, from 1; none where the whole file is meant. */
  readonly line?: number;
  /** Field or column. */
  readonly where: string;
  readonly problem: string;
}

export type TextResult =
  | { readonly ok: true; readonly text: string }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const refuse = (problem: string): TextResult => ({
  ok: false,
  problems: [{ where: "file", problem }],
});

/** The text of a file's bytes: UTF-8, or UTF-16 with its mark. Anything else is refused, never guessed. */
export const decodeText = (bytes: Uint8Array): TextResult => {
  if (bytes.length > MOST_BYTES)
    return refuse(
      `the file has ${(bytes.length / 1024 / 1024).toFixed(1)} MB; at most ${MOST_BYTES / 1024 / 1024} MB are taken.`,
    );
  const marked =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? "utf-16le"
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? "utf-16be"
        : "utf-8";
  try {
    const text = new TextDecoder(marked, { fatal: true }).decode(bytes);
    if (text.includes("\u0000"))
      return refuse("the file is not text (it holds zero bytes). Save it as UTF-8.");
    return { ok: true, text };
  } catch {
    return refuse("the file is neither UTF-8 nor marked UTF-16. Save it again as UTF-8.");
  }
};

/** The line of a place in a text, from 1. */
export const lineAt = (text: string, offset: number): number => {
  let line = 1;
  for (let i = 0; i < offset && i < text.length; i++) if (text.charCodeAt(i) === 10) line++;
  return line;
};
