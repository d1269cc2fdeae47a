import {
  jobOf,
  departuresFrom,
  HOUSE_LIMITS,
  jobSetupBy,
  type RunSetup,
} from "@uppershed/core/procedure";
import { formatQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { pointOf, ruleInWords } from "@uppershed/core/rules";
import { eq } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { places } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { rulesInForce } from "./rules.ts";

/** The winter low that a unit's plans go by: its place's, or the workshop's. */
export const winterLowFor = async (
  scope: Scope,
  placeId: string | null,
): Promise<{ from: string; celsius: number }> => {
  const place = placeId === null ? undefined : await scope.first(places, eq(places.id, placeId));
  if (place) return { from: place.name, celsius: place.winterLowC };
  const { name, winterLowC } = await scope.workshop();
  return { from: name, celsius: winterLowC };
};

const inWords = (key: string, value: string | number, units: UnitSystem): string =>
  key === "winterLow"
    ? formatQuantity(Number(value), "temperature", units)
    : ruleInWords(key, value, units);

const OLD_FORM = "not said, by a device of an earlier form";

/**
 * A setup with the house's rules of now in it, and each departure from them under the name of whoever begins.
 * @throws Refused where rules or winter low are not those of now, or a departure has no reason
 */
export const withRules = async (
  scope: Scope,
  setup: RunSetup,
  placeId: string | null,
  by: string,
): Promise<RunSetup> => {
  const rules = await rulesInForce(scope);
  const winterLow = await winterLowFor(scope, placeId);
  const house = jobSetupBy(rules, winterLow, jobOf(setup), {
    product: setup.product,
    method: setup.method,
  });
  if (setup.job !== undefined && setup.job !== "winterize" && setup.water === undefined)
    throw new Refused("bad-request", "This plan does not say what it goes by. Nothing was begun.");
  const given = setup.rules;
  if (
    given &&
    (given.revision !== rules.revision ||
      Math.abs(given.winterLow.celsius - winterLow.celsius) > 1e-6)
  )
    throw new Refused(
      "conflict",
      "The house rules, or the winter low of its place, have changed since this was planned. Look at the plan again, then begin. Nothing was changed.",
    );
  const { units } = await scope.workshop();
  const departures = departuresFrom(setup, rules, winterLow).map(({ key, house: wanted, used }) => {
    const told = given?.departures.find((d) => d.key === key);
    if (given && !told)
      throw new Refused(
        "bad-request",
        `${pointOf(key)?.question ?? "Winter low:"} The house says ${inWords(key, wanted, units)}; say why ${inWords(key, used, units)} is planned with here. Nothing was begun.`,
      );
    return { key, name: by, reason: told?.reason ?? OLD_FORM };
  });
  return {
    ...setup,
    house: { ...(setup.house ?? HOUSE_LIMITS), air: setup.house?.air ?? house.house?.air },
    rules: { ...(house.rules as NonNullable<RunSetup["rules"]>), departures },
  };
};
