import type { ReportData } from "@uppershed/contract";
import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";
import { Piscina } from "piscina";
import { picturesIn } from "./pdf.ts";

/** Reports are made beside the server, so that whoever asks for anything else does not wait for them. */

const MOST_AT_ONCE = 2;
const KEPT_IDLE_MS = 60_000;

let made: Piscina | undefined;
const workers = (): Piscina =>
  (made ??= new Piscina({
    filename: new URL("pdf.worker.ts", import.meta.url).href,
    minThreads: 0,
    maxThreads: MOST_AT_ONCE,
    idleTimeout: KEPT_IDLE_MS,
    // As the server itself is run.
    execArgv: ["--import", pathToFileURL(createRequire(import.meta.url).resolve("tsx")).href],
  }));

/** @param bytesOf the bytes of one of the report's pictures */
export const reportPdfBeside = async (
  data: ReportData,
  bytesOf: (pictureId: string) => Promise<Buffer>,
): Promise<Buffer> => {
  const pictures: Record<string, Uint8Array> = {};
  for (const { id } of picturesIn(data)) pictures[id] = await bytesOf(id);
  return Buffer.from((await workers().run({ data, pictures })) as Uint8Array);
};

/** Ends what is kept ready. */
export const endPdfWorkers = async (): Promise<void> => {
  const ending = made;
  made = undefined;
  await ending?.destroy();
};
