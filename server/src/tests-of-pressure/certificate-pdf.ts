import {
  type Certificate,
  certificateOf,
  OUTCOME_WORDS,
  type PressureTest,
} from "@uppershed/core/hold";
import { fillIn, type UnitSystem } from "@uppershed/core/quantity";
import type { Content } from "pdfmake/interfaces.js";
import { day, heading, muted, paperPdf, RUST } from "../paper/paper.ts";

/** The certificate of a pressure test as a PDF file: the same words as the page, from the same figures. */

export interface CertificateTask {
  readonly test: PressureTest;
  readonly unit: string;
  readonly craft: string;
  readonly openedSince: string | null;
  readonly workshop: { readonly name: string; readonly place: string; readonly units: UnitSystem };
}

const readingsTable = ({ readings }: Certificate, rule: (t: string) => string): Content[] =>
  readings.lines.length === 0
    ? []
    : [
        heading(readings.caption),
        {
          layout: "lightHorizontalLines",
          fontSize: 9,
          table: {
            headerRows: 1,
            widths: ["*", "*", "*", "*"],
            body: [
              readings.head.map((text) => ({ text, bold: true })),
              ...readings.lines.map((cells) => cells.map((cell) => ({ text: rule(cell) }))),
            ],
          },
        },
        muted(rule(readings.note)),
      ];

export const certificatePdf = ({
  test,
  unit,
  craft,
  openedSince,
  workshop,
}: CertificateTask): Promise<Buffer> => {
  const paper = certificateOf(test, { unit: `${unit}, ${craft}`, openedSince, day });
  const rule = (text: string): string => fillIn(text, workshop.units);
  return paperPdf({
    title: `Pressure test of ${unit}`,
    workshop: workshop.name,
    unit,
    content: [
      muted([workshop.name, workshop.place].filter(Boolean).join(", ")),
      { text: `Pressure test: ${OUTCOME_WORDS[paper.outcome]}`, fontSize: 20, bold: true },
      ...paper.warnings.map((text): Content => ({ text, bold: true, color: RUST })),
      ...(paper.why ? [rule(paper.why)] : []),
      {
        layout: "lightHorizontalLines",
        margin: [0, 10, 0, 6],
        table: {
          widths: [150, "*"],
          body: paper.rows.map(([label, value]) => [muted(label), { text: rule(value) }]),
        },
      },
      ...(paper.working ? [rule(paper.working)] : []),
      ...readingsTable(paper, rule),
      { text: paper.signed, margin: [0, 16, 0, 4], bold: true },
      muted(paper.foot),
    ],
  });
};
