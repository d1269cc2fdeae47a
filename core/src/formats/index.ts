export { writeInp, type InpFile } from "./inp-write.ts";
export { readInp, type InpImport } from "./inp-read.ts";
export { mapJsonSchema, type MapFile, readMapJson, writeMapJson } from "./map-json.ts";
export { itemsOf, lifeKey, type PartsImport, readPartsCsv, writePartsCsv } from "./parts-csv.ts";
export {
  ageMonths,
  CONDITION_LABELS,
  CONDITIONS,
  dueOn,
  NO_LIFE,
  type PartLife,
  partLifeChangeSchema,
  partLifeSchema,
} from "./register.ts";
export { escapeXml, sceneSvg, writeSvg } from "./svg.ts";
export { decodeText, type FileProblem, MOST_BYTES, type TextResult } from "./text.ts";
export {
  type CustomerFields,
  customerFields,
  readRegisterCsv,
  type RegisterImport,
  type RegisterRow,
  type UnitFields,
  unitFields,
  writeRegisterCsv,
} from "./customers-csv.ts";
export { readVcards, type VcardImport, writeVcards } from "./vcard.ts";
export { litMapSvg } from "./lit-map.ts";
