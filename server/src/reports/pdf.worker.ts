import type { ReportData } from "@uppershed/contract";
import { reportPdf } from "./pdf.ts";

export default ({
  data,
  pictures,
}: {
  data: ReportData;
  pictures: Readonly<Record<string, Uint8Array>>;
}): Promise<Uint8Array> =>
  reportPdf(data, async (id) => {
    const bytes = pictures[id];
    if (!bytes) throw new Error("a picture was not handed over");
    return Buffer.from(bytes);
  });
