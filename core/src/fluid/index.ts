export { asTntKg, storedEnergyJ, WATER_BULK_PA, waterEnergyJ } from "./air.ts";
export { type Property } from "./table.ts";
export { ICE_DENSITY_KG_M3, iceExpansion, waterDensityKgM3, waterViscosityPaS } from "./water.ts";
export {
  BURST_TABLE_BOTTOM,
  brixFromStrength,
  burstPointC,
  freezingPointC,
  glycolDensityKgM3,
  glycolViscosityPaS,
  massFractionFromStrength,
  strengthForBurst,
  strengthForFreezing,
  strengthFromBrix,
  strengthFromMassFraction,
} from "./glycol.ts";
export { FREEZING, freezingTimes, outwardResistance } from "./freezing-time.ts";
export { agedBleach, bleachFor, chlorineBy, chlorineGPerL, QUARTER_CUP_RULE } from "./chlorine.ts";
