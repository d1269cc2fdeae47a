import type { RunEventBody } from "@uppershed/core/procedure";

/** An entry of a run in words, so that what was not taken can be written down again by hand. */
export const runEntryInWords = (body: RunEventBody): string => {
  switch (body.type) {
    case "reading":
    case "corrected":
      return `reading ${body.typed}`;
    case "note":
    case "noticed":
      return `note “${body.text}”`;
    case "step-cannot":
      return `can't be done, “${body.reason}”`;
    case "step-signed":
      return "signature of a step";
    case "step-brought":
      return "another step first";
    case "row-ticked":
      return "tick of a row";
    case "as-found":
      return "the lineup as found";
    case "as-left":
      return "the lineup as left";
    case "planned":
      return "a plan";
    default:
      return `signature ${body.name}`;
  }
};
