import { ATMOSPHERE_PA } from "../quantity/index.ts";

/** What a pipe system is made of, and what can be wrong with it. */

export interface Liquid {
  readonly densityKgM3: number;
  /** Dynamic viscosity, Pa·s. */
  readonly viscosityPaS: number;
}

export interface HydraulicNode {
  readonly id: string;
  /** Height above the map's datum, m. */
  readonly heightM: number;
  /** Held at this pressure above the air: a vented tank, a supply. */
  readonly fixedPa?: number;
  /** Drawn off whatever the pressure, m3/s. */
  readonly drawM3PerS?: number;
}

/** Something that water passes from one node to another; flow is positive from `from` to `to`, which are numbers of nodes. */
export type HydraulicElement = {
  readonly id: string;
  readonly from: number;
  readonly to: number;
} & (
  | {
      readonly kind: "pipe";
      readonly lengthM: number;
      readonly boreM: number;
      readonly roughnessM: number;
      /** Sum of the fittings' loss factors. */
      readonly lossK: number;
      readonly liquid: Liquid;
      /** A check: passes only from `from` to `to`. */
      readonly oneWay?: boolean;
      /** What its spring takes before it opens and while it stands open, Pa. */
      readonly crackPa?: number;
      readonly shut?: boolean;
    }
  /** Gives `shutOffPa` against a shut pipe and `mostM3PerS` against none, a parabola between; nothing comes back through it. */
  | {
      readonly kind: "pump";
      readonly shutOffPa: number;
      readonly mostM3PerS: number;
      readonly liquid: Liquid;
      readonly shut?: boolean;
    }
  /** Holds the pressure behind it at no more than its setting; nothing comes back through it. */
  | { readonly kind: "regulator"; readonly setPa: number; readonly liquid: Liquid }
);

/** A tap or an open end: flow = coefficient × √(pressure at its height); lets no air in. */
export interface HydraulicOutlet {
  readonly id: string;
  readonly node: number;
  readonly heightM: number;
  /** m3/s at 1 Pa. */
  readonly coefficient: number;
  readonly densityKgM3: number;
}

export interface HydraulicNetwork {
  readonly nodes: readonly HydraulicNode[];
  readonly elements: readonly HydraulicElement[];
  readonly outlets: readonly HydraulicOutlet[];
}

export type HydraulicAnswer =
  | {
      readonly ok: true;
      /** m3/s by element, positive from `from` to `to`. */
      readonly flowsM3PerS: readonly number[];
      /** m3/s by outlet, never negative. */
      readonly outM3PerS: readonly number[];
      /** Above the air, by node; nothing where a node is closed off from every source and opening: its pressure is whatever it was. */
      readonly pressuresPa: readonly (number | undefined)[];
      /** Nodes whose fixed draw cannot be met, by id: no way leads there, or the water would boil before it came. */
      readonly unmet: readonly string[];
      readonly iterations: number;
    }
  | { readonly ok: false; readonly problem: string };

/**
 * The lowest pressure that water stands, Pa above the air: below it, it boils and parts (cavitation). Vapour pressure 1.7 kPa at 15 °C
 * (IAPWS), under an atmosphere of 101.325 kPa.
 */
export const BOILS_AT_PA = 1_700 - ATMOSPHERE_PA;

/** What is wrong with a network's figures; nothing where all is well. */
export const problemOf = (network: HydraulicNetwork): string | undefined => {
  const isNode = (i: number): boolean => Number.isInteger(i) && i >= 0 && i < network.nodes.length;
  // A sum is a number only if all in it are.
  const finite = (sum: number): boolean => Number.isFinite(sum);
  for (const n of network.nodes)
    if (!finite(n.heightM + (n.fixedPa ?? 0) + (n.drawM3PerS ?? 0)))
      return `Node ${n.id} has a figure that is not a number.`;
  for (const e of network.elements) {
    if (!isNode(e.from) || !isNode(e.to) || e.from === e.to)
      return `Element ${e.id} does not join two nodes.`;
    const { densityKgM3, viscosityPaS } = e.liquid;
    if (!(finite(densityKgM3 + viscosityPaS) && densityKgM3 > 0 && viscosityPaS > 0))
      return `Element ${e.id} holds a liquid without density or viscosity.`;
    if (
      e.kind === "pipe" &&
      !(
        finite(e.lengthM + e.boreM + e.roughnessM + e.lossK + (e.crackPa ?? 0)) &&
        e.lengthM > 0 &&
        e.boreM > 0 &&
        e.roughnessM >= 0 &&
        e.lossK >= 0
      )
    )
      return `Pipe ${e.id} needs a length and a bore above zero, and roughness and losses that are not negative.`;
    if (
      e.kind === "pump" &&
      !(finite(e.shutOffPa + e.mostM3PerS) && e.shutOffPa > 0 && e.mostM3PerS > 0)
    )
      return `Pump ${e.id} needs a pressure and a flow above zero.`;
    if (e.kind === "regulator" && !(finite(e.setPa) && e.setPa >= 0))
      return `Regulator ${e.id} needs a setting.`;
  }
  for (const o of network.outlets)
    if (
      !isNode(o.node) ||
      !(finite(o.heightM + o.coefficient + o.densityKgM3) && o.coefficient > 0 && o.densityKgM3 > 0)
    )
      return `Outlet ${o.id} needs a node, a height and a coefficient above zero.`;
  return undefined;
};
