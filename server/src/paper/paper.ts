import { createRequire } from "node:module";
import type { Content, TDocumentDefinitions } from "pdfmake/interfaces.js";

/** What every paper of the workshop is made with: the maker of PDF files, its inks and its words. */

interface Maker {
  addFonts: (fonts: unknown) => void;
  setUrlAccessPolicy: (policy: (url: string) => boolean) => void;
  setLocalAccessPolicy: (policy: (path: string) => boolean) => void;
  createPdf: (definition: TDocumentDefinitions) => { getBuffer: () => Promise<Buffer> };
}

const need = createRequire(import.meta.url);
let ready: Maker | undefined;
const maker = (): Maker => {
  if (!ready) {
    ready = need("pdfmake") as Maker;
    const fonts = need("pdfmake/fonts/Roboto.js") as { Roboto: Record<string, string> };
    ready.addFonts(fonts);
    // Nothing is fetched while a report is made, and no file is read but its fonts.
    ready.setUrlAccessPolicy(() => false);
    ready.setLocalAccessPolicy((path) => Object.values(fonts.Roboto).includes(path));
  }
  return ready;
};

export const GREEN = "#1c4a3e";
export const RUST = "#ad4013";
export const MUTED = "#525c55";

export const day = (iso: string): string =>
  new Date(iso).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
    timeZone: "UTC",
  });

export const heading = (text: string): Content => ({
  text,
  style: "heading",
  margin: [0, 14, 0, 4],
});
export const muted = (text: string): Content => ({ text, color: MUTED });

/** A paper with the workshop's frame about it: its margins, its letters, a line at the foot of each page. */
export const paperPdf = (of: {
  readonly title: string;
  readonly workshop: string;
  readonly unit: string;
  readonly content: Content[];
}): Promise<Buffer> =>
  maker()
    .createPdf({
      info: { title: of.title, author: of.workshop },
      pageMargins: [42, 46, 42, 46],
      defaultStyle: { font: "Roboto", fontSize: 10, lineHeight: 1.15 },
      styles: { heading: { fontSize: 13, bold: true, color: GREEN } },
      footer: (page: number, pages: number): Content => ({
        text: `${of.workshop} · ${of.unit} · page ${page} of ${pages}`,
        alignment: "center",
        fontSize: 8,
        color: MUTED,
      }),
      content: of.content,
    })
    .getBuffer();
