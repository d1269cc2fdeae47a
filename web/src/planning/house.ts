import type { KitItem, Rules, Unit, Workshop } from "@uppershed/contract";
import { canBePlannedWith } from "@uppershed/core/kit";
import { type Job, jobSetupBy, type RunSetup, setupBy } from "@uppershed/core/procedure";
import { useMemo, useState } from "react";
import { useKitQuery, useMeQuery, useRulesQuery } from "../store/api.ts";

export type Product = RunSetup["product"];

/** The antifreeze of the workshop that plans can be made with, each in its first jug, the strongest first. */
export const productsOf = (kit: readonly KitItem[]): Product[] =>
  kit
    .flatMap(({ name, givenUp, facts }) => {
      if (givenUp || facts.kind !== "antifreeze" || !canBePlannedWith(facts)) return [];
      const [jugM3] = facts.jugsM3;
      return jugM3 === undefined
        ? []
        : [{ name, ...(facts.lot ? { lot: facts.lot } : {}), strength: facts.strength, jugM3 }];
    })
    .toSorted((a, b) => b.strength - a.strength);

/** What the largest compressor of the workshop has behind it, m3; undefined where the kit does not say. */
const compressorOf = (kit: readonly KitItem[]): number | undefined => {
  const held = kit.flatMap(({ givenUp, facts }) =>
    !givenUp && facts.kind === "compressor" && facts.receiverM3 !== undefined
      ? [facts.receiverM3]
      : [],
  );
  return held.length > 0 ? Math.max(...held) : undefined;
};

/** A setup by the house's rules, the cold of the unit's place, and the first product in the kit. */
export const houseSetup = (
  workshop: Pick<Workshop, "name" | "winterLowC">,
  rules: Pick<Rules, "now">,
  kit: readonly KitItem[],
  place: Unit["place"],
): RunSetup =>
  setupBy(
    { revision: rules.now.revision, values: rules.now.values },
    place
      ? { from: place.name, celsius: place.winterLowC }
      : { from: workshop.name, celsius: workshop.winterLowC },
    productsOf(kit)[0],
    undefined,
    compressorOf(kit),
  );

export type Bottle = NonNullable<RunSetup["water"]>["chlorine"]["bottle"];

const DAY_MS = 86_400_000;

/** The bleach of the workshop, the strongest first, each with how long it has been open today. */
export const bottlesOf = (kit: readonly KitItem[], now: number): Bottle[] =>
  kit
    .flatMap(({ name, givenUp, facts }) => {
      if (givenUp || facts.kind !== "bleach") return [];
      const opened = facts.openedOn === undefined ? undefined : Date.parse(facts.openedOn);
      return [
        {
          name,
          strength: facts.strength,
          ...(opened === undefined
            ? {}
            : { days: Math.max(0, Math.floor((now - opened) / DAY_MS)) }),
        },
      ];
    })
    .toSorted((a, b) => b.strength - a.strength);

/** What a spring or a sanitizing of a unit begins with; undefined while that is being asked. */
export const useJobSetup = (
  unit: Pick<Unit, "place"> | undefined,
  job: Job,
): RunSetup | undefined => {
  const { data: me } = useMeQuery();
  const { data: rules } = useRulesQuery();
  const { data: kit } = useKitQuery();
  const place = unit?.place;
  const [now] = useState(() => Date.now());
  return useMemo(() => {
    if (!me || !rules || !kit || place === undefined) return undefined;
    const [bottle] = bottlesOf(kit.kit, now);
    return jobSetupBy(
      { revision: rules.now.revision, values: rules.now.values },
      place
        ? { from: place.name, celsius: place.winterLowC }
        : { from: me.workshop.name, celsius: me.workshop.winterLowC },
      job,
      bottle ? { bottle } : {},
    );
  }, [me, rules, kit, place, job, now]);
};

/** What a plan of a unit begins with; undefined while that is being asked. */
export const useHouseSetup = (unit: Pick<Unit, "place"> | undefined): RunSetup | undefined => {
  const { data: me } = useMeQuery();
  const { data: rules } = useRulesQuery();
  const { data: kit } = useKitQuery();
  const place = unit?.place;
  return useMemo(
    () =>
      me && rules && kit && place !== undefined
        ? houseSetup(me.workshop, rules, kit.kit, place)
        : undefined,
    [me, rules, kit, place],
  );
};

/** What a jug of the product costs, where the kit says it of a jug of this size. */
export const jugPriceOf = (kit: readonly KitItem[], { product }: RunSetup): number | undefined =>
  kit.flatMap(({ name, facts }) =>
    facts.kind === "antifreeze" &&
    name === product.name &&
    facts.price !== undefined &&
    facts.jugsM3[0] === product.jugM3
      ? [facts.price]
      : [],
  )[0];
