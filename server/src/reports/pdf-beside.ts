import type { ReportData } from "@uppershed/contract";
import { beside } from "../beside.ts";
import { picturesIn } from "./pdf.ts";
import type { PdfTask } from "./pdf.worker.ts";

const workers = beside<PdfTask, Uint8Array>(new URL("pdf.worker.ts", import.meta.url));

/** @param bytesOf the bytes of one of the report's pictures */
export const reportPdfBeside = async (
  data: ReportData,
  bytesOf: (pictureId: string) => Promise<Buffer>,
): Promise<Buffer> => {
  const pictures: Record<string, Uint8Array> = {};
  for (const { id } of picturesIn(data)) pictures[id] = await bytesOf(id);
  return Buffer.from(await workers.run({ data, pictures }));
};

export const endPdfWorkers = workers.end;
