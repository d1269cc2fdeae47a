import { TEST_HOUSE, type TestHouse } from "@uppershed/core/hold";
import type { RuleValues } from "@uppershed/core/rules";

/** What the house's rules say of tests; as shipped where they say nothing. */
export const testHouseOf = (values: RuleValues): TestHouse => {
  const of = (key: string, standard: number): number =>
    values[key] === undefined ? standard : Number(values[key]);
  return {
    waterPa: of("test.waterPressure", TEST_HOUSE.waterPa),
    airPa: of("air.pressure", TEST_HOUSE.airPa),
    airCeilingPa: of("air.ceiling", TEST_HOUSE.airCeilingPa),
    tankPa: of("test.tankPressure", TEST_HOUSE.tankPa),
    minHoldS: of("test.minHold", TEST_HOUSE.minHoldS),
    smallest: TEST_HOUSE.smallest,
  };
};
