import type {
  HydraulicElement,
  HydraulicNetwork,
  HydraulicNode,
  HydraulicOutlet,
  Liquid,
} from "../hydraulics/index.ts";

/** A seeded stream of numbers from 0 to 1 (mulberry32). */
export const seeded = (seed: number): (() => number) => {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
};

const BORES = [0.0089, 0.01, 0.0117, 0.01207, 0.0127, 0.0177, 0.019];

/**
 * A network of the sizes met aboard, with loops, checks, several sources, a pump and a regulator as the seed has it.
 * One liquid throughout, outlets at the height of their node, so that EPANET can say the same.
 */
export const randomPipes = (seed: number, junctions?: number): HydraulicNetwork => {
  const next = seeded(seed);
  const between = (low: number, high: number): number => low + next() * (high - low);
  const whole = (below: number): number => Math.floor(next() * below);
  const count = junctions ?? 4 + whole(28);
  const liquid: Liquid =
    next() < 0.3
      ? { densityKgM3: 1000, viscosityPaS: between(2e-3, 8e-3) }
      : { densityKgM3: 1000, viscosityPaS: 1.1e-3 };
  const nodes: HydraulicNode[] = [];
  const elements: HydraulicElement[] = [];
  const outlets: HydraulicOutlet[] = [];
  for (let i = 0; i < count; i++)
    nodes.push({
      id: `j${i}`,
      heightM: between(0, 2.5),
      ...(next() < 0.1 ? { drawM3PerS: between(0, 3e-5) } : {}),
    });
  const pipe = (from: number, to: number, oneWay = false): void =>
    void elements.push({
      id: `p${elements.length}`,
      kind: "pipe",
      from,
      to,
      lengthM: between(0.2, 9),
      boreM: BORES[whole(BORES.length)] as number,
      roughnessM: next() < 0.8 ? 1.5e-6 : between(1e-5, 1e-4),
      lossK: next() < 0.5 ? 0 : between(0, 8),
      liquid,
      ...(oneWay ? { oneWay } : {}),
    });
  for (let i = 1; i < count; i++) pipe(whole(i), i);
  for (let extra = whole(Math.ceil(count / 4) + 1); extra > 0; extra--) {
    const [a, b] = [whole(count), whole(count)];
    if (a !== b) pipe(a, b, next() < 0.3);
  }
  const source = (pressure: number): number =>
    nodes.push({ id: `s${nodes.length}`, heightM: between(0, 1), fixedPa: pressure }) - 1;
  // The first is always strong enough to feed what is drawn.
  pipe(source(between(250_000, 450_000)), 0);
  if (next() < 0.5) pipe(source(between(150_000, 400_000)), whole(count), next() < 0.5);
  if (next() < 0.5) {
    const inlet = nodes.push({ id: `suction${nodes.length}`, heightM: 0.2 }) - 1;
    pipe(source(between(1_000, 6_000)), inlet);
    elements.push({
      id: "pump",
      kind: "pump",
      from: inlet,
      to: whole(count),
      shutOffPa: between(200_000, 400_000),
      mostM3PerS: between(1e-4, 3e-4),
      liquid,
    });
  }
  if (next() < 0.4) {
    const [before, behind] = [
      nodes.push({ id: "before", heightM: 0.5 }) - 1,
      nodes.push({ id: "behind", heightM: 0.5 }) - 1,
    ];
    pipe(source(between(300_000, 600_000)), before);
    elements.push({
      id: "regulator",
      kind: "regulator",
      from: before,
      to: behind,
      setPa: between(150_000, 350_000),
      liquid,
    });
    pipe(behind, whole(count), true);
  }
  for (let i = 0; i < count; i++)
    if (next() < 0.25 || i === count - 1)
      outlets.push({
        id: `o${i}`,
        node: i,
        heightM: nodes[i]?.heightM ?? 0,
        coefficient: between(0.3, 3) * 2.2e-7,
        densityKgM3: 1000,
      });
  return { nodes, elements, outlets };
};
