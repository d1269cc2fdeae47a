import { certificatePdf, type CertificateTask } from "./certificate-pdf.ts";

export default (task: CertificateTask): Promise<Uint8Array> => certificatePdf(task);
