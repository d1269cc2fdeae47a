import type { ReportData } from "@uppershed/contract";
import { reportPdf } from "./pdf.ts";

export interface PdfTask {
  readonly data: ReportData;
  readonly pictures: Readonly<Record<string, Uint8Array>>;
}

export default ({ data, pictures }: PdfTask): Promise<Uint8Array> =>
  reportPdf(data, async (id) => {
    const bytes = pictures[id];
    if (!bytes) throw new Error("a picture was not handed over");
    return Buffer.from(bytes);
  });
