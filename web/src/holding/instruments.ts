import type { KitItem } from "@uppershed/contract";

/** The instruments of a workshop's own list that a hold is read with. */

interface Named {
  readonly name: string;
  readonly certificate: string;
  readonly calibratedUntil?: string;
}

export interface GaugeChoice extends Named {
  readonly stepPa: number;
  readonly rangePa?: number;
}
export interface Thermometer extends Named {
  readonly stepK?: number;
}
export interface Barometer extends Named {
  readonly stepPa?: number;
}

type Facts = Extract<KitItem["facts"], { kind: "instrument" }>;

const instruments = (
  kit: readonly KitItem[],
  ...what: readonly Facts["what"][]
): (Named & { readonly facts: Facts })[] =>
  kit.flatMap(({ name, givenUp, facts }) =>
    !givenUp && facts.kind === "instrument" && what.includes(facts.what)
      ? [{ ...named(name, facts), facts }]
      : [],
  );

const named = (name: string, { certificate, calibratedUntil }: Facts): Named => ({
  name,
  certificate,
  ...(calibratedUntil === undefined ? {} : { calibratedUntil }),
});

/** Gauges and loggers whose step is known. */
export const gaugesOf = (kit: readonly KitItem[]): GaugeChoice[] =>
  instruments(kit, "gauge", "logger").flatMap(({ facts, ...of }) =>
    facts.stepPa === undefined
      ? []
      : [
          {
            ...of,
            stepPa: facts.stepPa,
            ...(facts.rangePa === undefined ? {} : { rangePa: facts.rangePa }),
          },
        ],
  );

/** Finest first; one whose step nobody wrote down comes last, and counts as shipped. */
const byStep = (step: number | undefined): number => step ?? Number.POSITIVE_INFINITY;

export const thermometersOf = (kit: readonly KitItem[]): Thermometer[] =>
  instruments(kit, "thermometer")
    .map(({ facts, ...of }) => ({
      ...of,
      ...(facts.stepK === undefined ? {} : { stepK: facts.stepK }),
    }))
    .toSorted((a, b) => byStep(a.stepK) - byStep(b.stepK));

export const barometersOf = (kit: readonly KitItem[]): Barometer[] =>
  instruments(kit, "barometer")
    .map(({ facts, ...of }) => ({
      ...of,
      ...(facts.stepPa === undefined ? {} : { stepPa: facts.stepPa }),
    }))
    .toSorted((a, b) => byStep(a.stepPa) - byStep(b.stepPa));

/** What is kept of an instrument with a test. */
export const asNamed = ({ name, certificate, calibratedUntil }: Named): Named => ({
  name,
  certificate,
  ...(calibratedUntil === undefined ? {} : { calibratedUntil }),
});
