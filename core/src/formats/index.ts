export { readHoldCsv, writeHoldCsv } from "./hold-csv.ts";
export { writeInp } from "./inp-write.ts";
export { readInp } from "./inp-read.ts";
export { mapJsonSchema, type MapFile, readMapJson, writeMapJson } from "./map-json.ts";
export { itemsOf, readPartsCsv, usualLife, writePartsCsv } from "./parts-csv.ts";
export { lifeKey } from "./life-key.ts";
export {
  CONDITION_LABELS,
  CONDITIONS,
  dueOn,
  NO_LIFE,
  type PartLife,
  partLifeChangeSchema,
  partLifeSchema,
} from "./register.ts";
export { type PriceLine, readPricesCsv, writePricesCsv } from "./prices-csv.ts";
export { readForecastCsv } from "./forecast-csv.ts";
export { guarded, writeTable } from "./table.ts";
export { escapeXml, writeSvg } from "./svg.ts";
export { decodeText, type FileProblem } from "./text.ts";
export {
  type CustomerFields,
  customerFields,
  readRegisterCsv,
  type RegisterRow,
  type UnitFields,
  unitFields,
  writeRegisterCsv,
} from "./customers-csv.ts";
export { readVcards, type VcardImport, writeVcards } from "./vcard.ts";
export { litMapSvg } from "./lit-map.ts";
export { writeClocksIcs } from "./clock-ics.ts";
