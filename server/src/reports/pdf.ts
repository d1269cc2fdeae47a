import type { ReportData } from "@uppershed/contract";
import { litMapSvg } from "@uppershed/core/formats";
import {
  ANSWERS_TOLD,
  LOOK_MARK_LABELS,
  type LookMark,
  type Report,
  type ReportFinding,
  reportFrom,
  SEVERITY_LABELS,
  stateInWords,
} from "@uppershed/core/inspection";
import { fillIn } from "@uppershed/core/quantity";
import { readWaterMap } from "@uppershed/core/watermap";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import sharp from "sharp";
import { day, GREEN, heading, MUTED, muted, paperPdf, RUST } from "../paper/paper.ts";

/** The owner's report as a PDF file: the same words as the page, from the same figures. */

const PICTURE_PX = 900;
const MAP_PX = 1500;

/** A row of pictures. */
const inRow = (images: readonly string[]): Content => ({
  columns: images.map((image) => ({ image, width: 160 })),
  columnGap: 8,
  margin: [0, 4, 0, 0],
});

/** The winterizing, in the words of its day. */
const winterized = (
  data: ReportData,
  images: readonly string[],
  rule: (t: string) => string,
): Content[] =>
  data.winterizing === null
    ? []
    : [
        heading(`Winterized on ${day(data.winterizing.at)}`),
        ...data.winterizing.sections.flatMap((s): Content[] => [
          { text: s.title, bold: true, margin: [0, 4, 0, 2] },
          { ul: s.lines.map(rule) },
        ]),
        ...(images.length > 0 ? [{ text: "As it was left", bold: true }] : []),
        ...Array.from({ length: Math.ceil(images.length / MOST_PICTURES) }, (_, i) =>
          inRow(images.slice(i * MOST_PICTURES, (i + 1) * MOST_PICTURES)),
        ),
      ];

/** How the water is used, last: it is what stays with the unit. */
const handover = (data: ReportData, rule: (t: string) => string): Content[] =>
  data.handover.length === 0
    ? []
    : [
        heading("Using the water of this unit"),
        ...data.handover.flatMap((s): Content[] => [
          { text: s.title, bold: true, margin: [0, 4, 0, 2] },
          { ul: s.lines.map(rule) },
        ]),
      ];

/** De-winterizing and sanitizing, in the words of their day. */
const waterWork = (data: ReportData, rule: (t: string) => string): Content[] =>
  data.waterWork.flatMap((w) => [
    heading(`${w.job === "spring" ? "De-winterized" : "Sanitized"} on ${day(w.at)}`),
    ...w.sections.flatMap((s): Content[] => [
      { text: s.title, bold: true, margin: [0, 4, 0, 2] },
      { ul: s.lines.map(rule) },
    ]),
  ]);

const findingBlock = (
  f: ReportFinding,
  number: number | undefined,
  images: readonly string[],
  rule: (t: string) => string,
): Content => ({
  unbreakable: true,
  margin: [0, 4, 0, 6],
  stack: [
    {
      text: [
        ...(number === undefined ? [] : [{ text: `${number}  `, bold: true, color: RUST }]),
        {
          text: `${SEVERITY_LABELS[f.severity]}: `,
          bold: true,
          color: f.severity === "unsafe" ? RUST : GREEN,
        },
        { text: rule(f.what), bold: true },
        ...(f.place ? [{ text: ` (${f.place})`, color: MUTED }] : []),
      ],
    },
    ...(f.cause ? [{ text: `Cause: ${rule(f.cause)}` }] : []),
    ...(f.advice ? [{ text: `Advised: ${rule(f.advice)}` }] : []),
    ...(f.partsNeeded || f.minutes !== null
      ? [
          muted(
            ["Needs:", f.partsNeeded, f.minutes === null ? "" : `about ${f.minutes} minutes`]
              .filter(Boolean)
              .join(" "),
          ),
        ]
      : []),
    ...(f.answer
      ? [
          muted(
            `Your answer: ${ANSWERS_TOLD[f.answer.answer]} (${f.answer.who}, ${day(f.answer.at)})`,
          ),
        ]
      : []),
    ...(f.mended
      ? [{ text: `Mended ${day(f.mended.at)}: ${f.mended.how}. Proved by: ${f.mended.proof}.` }]
      : []),
    ...(f.accepted ? [muted(`Left so: ${f.accepted.why}`)] : []),
    ...(images.length > 0 ? [inRow(images)] : []),
  ],
});

/** SVG marks of a picture, to be laid over its pixels. */
const marksSvg = (
  picture: ReportData["pictures"][number],
  width: number,
  height: number,
): Buffer => {
  const line = Math.max(4, width / 130);
  const drawn = picture.marks.map((m) => {
    if (m.kind === "ring")
      return `<circle cx="${m.x * width}" cy="${m.y * height}" r="${m.r * width}" fill="none" stroke="${RUST}" stroke-width="${line}"/>`;
    const [x1, y1, x2, y2] = [m.x * width, m.y * height, m.toX * width, m.toY * height];
    const turn = Math.atan2(y2 - y1, x2 - x1);
    const wing = (by: number): string =>
      `${x2 - 5 * line * Math.cos(turn + by)} ${y2 - 5 * line * Math.sin(turn + by)}`;
    return `<path d="M${x1} ${y1}L${x2} ${y2}M${wing(0.5)}L${x2} ${y2}L${wing(-0.5)}" fill="none" stroke="${RUST}" stroke-width="${line}"/>`;
  });
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${drawn.join("")}</svg>`,
  );
};

const imageOf = async (picture: ReportData["pictures"][number], data: Buffer): Promise<string> => {
  const small = await sharp(data)
    .resize({ width: PICTURE_PX, height: PICTURE_PX, fit: "inside", withoutEnlargement: true })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = small.info;
  const made = await sharp(small.data)
    .composite(picture.marks.length > 0 ? [{ input: marksSvg(picture, width, height) }] : [])
    .jpeg({ quality: 78 })
    .toBuffer();
  return `data:image/jpeg;base64,${made.toString("base64")}`;
};

// More would push the next finding off its page.
const MOST_PICTURES = 3;

const picturesOf = ({ pictures }: ReportData, id: string): ReportData["pictures"] =>
  pictures.filter((p) => p.aboutId === id).slice(0, MOST_PICTURES);

/** How the unit was left; as many as a page holds. */
const leftPictures = (data: ReportData): ReportData["pictures"] =>
  data.winterizing
    ? data.pictures.filter((p) => p.about === "run").slice(0, 2 * MOST_PICTURES)
    : [];

/** The pictures that a report's paper shows. */
export const picturesIn = (data: ReportData): ReportData["pictures"] => [
  ...leftPictures(data),
  ...data.findings.flatMap((f) => picturesOf(data, f.id)),
];

const seenTable = (report: Report): Content => ({
  layout: "lightHorizontalLines",
  table: {
    headerRows: 0,
    widths: [120, "*", 70],
    body: report.places.flatMap<TableCell[]>((place) => [
      [{ text: place.place, bold: true, colSpan: 3, fillColor: "#e3ece5" }, "", ""],
      ...place.lines.map((l) => [
        { text: l.name },
        { text: l.note ? `${l.point}: ${l.note}` : l.point },
        {
          text: LOOK_MARK_LABELS[l.mark as LookMark] ?? l.mark,
          bold: l.mark !== "good",
          color: l.mark === "bad" ? RUST : "#14201b",
        },
      ]),
    ]),
  },
});

/** @param bytesOf the bytes of one of the report's pictures */
export const reportPdf = async (
  data: ReportData,
  bytesOf: (pictureId: string) => Promise<Buffer>,
): Promise<Buffer> => {
  const read = readWaterMap(data.map);
  if (!read.ok) throw new Error("a kept map cannot be read");
  const report = reportFrom(data.report, data.findings);
  const rule = (text: string): string => fillIn(text, data.workshop.units);
  const imagesOf = async (pictures: ReportData["pictures"]): Promise<string[]> => {
    const images: string[] = [];
    for (const picture of pictures) images.push(await imageOf(picture, await bytesOf(picture.id)));
    return images;
  };
  const blocks = async (
    findings: readonly ReportFinding[],
    numbered: boolean,
  ): Promise<Content[]> => {
    const made: Content[] = [];
    for (const f of findings) {
      const number = numbered && f.partId ? report.lit.indexOf(f.partId) + 1 : undefined;
      made.push(findingBlock(f, number, await imagesOf(picturesOf(data, f.id)), rule));
    }
    return made;
  };
  const map = await sharp(Buffer.from(litMapSvg(read.map, report.lit)))
    .resize({ width: MAP_PX })
    .flatten({ background: "#ffffff" })
    .png()
    .toBuffer();
  return paperPdf({
    title: `Report on ${data.unit.name}`,
    workshop: data.workshop.name,
    unit: data.unit.name,
    content: [
      muted(`${data.workshop.name}, ${data.workshop.place}`),
      { text: `Report on ${data.unit.name}`, fontSize: 20, bold: true },
      muted(
        `${data.unit.craft}${data.unit.plate ? `, ${data.unit.plate}` : ""} · ${data.unit.owner} · visit of ${day(data.visit.startsAt)} · map revision ${data.mapRevision}${data.edition ? ` · edition ${data.edition.number}, ${day(data.edition.at)}` : " · draft, not handed over"}`,
      ),
      { text: `Asked for: ${data.visit.asked}`, margin: [0, 6, 0, 0] },
      ...(data.visit.ownerSaid
        ? [{ text: `You said: “${data.visit.ownerSaid}”`, italics: true }]
        : []),
      {
        text: `On ${day(data.asOf)} it ${stateInWords(data.unit.state, data.workshop.units)}.`,
      },
      {
        text: `${report.seen} of ${report.inAll} points looked at, ${report.good} of them good; ${report.open.length} ${report.open.length === 1 ? "thing" : "things"} found that stand open.`,
      },
      ...(report.declined.length > 0
        ? [
            {
              text: `Unsafe and declined, so it stands on every report: ${report.declined.map((f) => f.what).join("; ")}`,
              color: RUST,
              bold: true,
              margin: [0, 4, 0, 0] as [number, number, number, number],
            },
          ]
        : []),
      ...waterWork(data, rule),
      ...winterized(data, await imagesOf(leftPictures(data)), rule),
      ...(data.tests.length > 0
        ? [
            heading("Pressure tests"),
            ...data.tests.map((t) => ({
              stack: [muted(day(t.at)), ...t.lines.map(rule)],
              margin: [0, 0, 0, 6] as [number, number, number, number],
            })),
          ]
        : []),
      heading("What is advised, most urgent first"),
      ...(report.open.length > 0
        ? await blocks(report.open, true)
        : [muted("Nothing stands open.")]),
      {
        image: `data:image/png;base64,${map.toString("base64")}`,
        fit: [510, 280],
        margin: [0, 6, 0, 0],
      },
      ...(report.mended.length > 0
        ? [heading("Mended on this visit"), ...(await blocks(report.mended, false))]
        : []),
      ...(report.accepted.length > 0
        ? [heading("Left as it is"), ...(await blocks(report.accepted, false))]
        : []),
      ...handover(data, rule),
      heading("What was looked at"),
      report.places.length > 0 ? seenTable(report) : muted("No walk-round was done on this visit."),
      heading("What was not reached"),
      ...(report.notReached.length > 0
        ? [{ ul: report.notReached.map((n) => `${n.name}: ${rule(n.point)} (${n.why})`) }]
        : []),
      ...(report.notLooked.length > 0
        ? [
            muted(
              `Not looked at on this visit: ${report.notLooked.map((n) => `${n.name} (${n.points.map(rule).join("; ")})`).join(", ")}.`,
            ),
          ]
        : []),
      ...(report.notReached.length + report.notLooked.length === 0
        ? [muted("Every point of the walk-round was reached.")]
        : []),
      {
        text: "Gas, mains electricity and pressure vessels are for licensed trades; the maker’s instructions and local codes come before this sheet.",
        fontSize: 8.5,
        color: MUTED,
        margin: [0, 16, 0, 0],
      },
    ],
  });
};
