import { ATMOSPHERE_PA, GRAVITY, INCH_M } from "../quantity/index.ts";
import { waterDensityKgM3, waterViscosityPaS } from "../fluid/index.ts";
import { frictionFactor, pipeLaw, pipeLoss, solveHydraulics } from "../hydraulics/index.ts";
import {
  answered,
  type Calculation,
  figure,
  input,
  line,
  refused,
  type Working,
} from "./calculation.ts";

const inch = INCH_M;
const ROUGHNESS_M = 1.5e-6;
// US Standard Atmosphere 1976 at sea level.
const SEA_LEVEL_PA = ATMOSPHERE_PA;

export const pipeLossCalculation: Calculation = {
  name: "pipe-loss",
  title: "Pressure lost along a pipe",
  inputs: [
    input("flow", "Flow", "flow", 8e-3 / 60, 1e-7, 0.01),
    input("bore", "Bore", "length", 0.475 * inch, 0.002, 0.2),
    input("length", "Length", "length", 3, 0.01, 500),
    input("temperature", "Temperature", "temperature", 15, 0, 80),
    input("k", "Fittings, sum of K", "number", 0, 0, 200, ""),
  ],
  source:
    "Darcy-Weisbach; friction factor 64/Re, Swamee-Jain above Re 4,000, Dunlop's cubic between (EPANET 2.2 users manual). Wall of drawn plastic 1.5 µm; K ±30 %, textbook, from memory.",
  thumb:
    "The older Hazen-Williams formula gives some 15 % less in small pipes; neither is wrong by the standards of a fitting.",
  work: ({ flow = 0, bore = 0, length = 0, temperature = 0, k = 0 }) => {
    const [density, viscosity] = [waterDensityKgM3(temperature), waterViscosityPaS(temperature)];
    if (!density.ok) return refused(density.problem);
    if (!viscosity.ok) return refused(viscosity.problem);
    const law = pipeLaw(
      { lengthM: length, boreM: bore, roughnessM: ROUGHNESS_M, lossK: k },
      { densityKgM3: density.value, viscosityPaS: viscosity.value },
    );
    const speed = figure("Speed", flow / ((Math.PI / 4) * bore ** 2), "number", "m/s");
    const re = figure("Reynolds number", flow * law.rePerFlow, "number", "");
    const f = figure("Friction factor", frictionFactor(re.value, law.roughness), "number", "");
    const loss = figure(
      "Pressure lost",
      pipeLoss(law, flow, { lossPa: 0, slope: 0 }).lossPa,
      "pressure",
    );
    return answered(
      loss,
      [
        line(speed, "Q / (π/4 · d²)", { Q: flow, d: bore }),
        line(re, "ρ · v · d / μ", {
          ρ: density.value,
          v: speed.value,
          d: bore,
          μ: viscosity.value,
        }),
        line(f, "f(Re, ε/d)", { Re: re.value, "ε/d": law.roughness }),
        line(loss, "(f · L/d + K) · ρ · v²/2", {
          f: f.value,
          L: length,
          d: bore,
          K: k,
          ρ: density.value,
          v: speed.value,
        }),
      ],
      [speed, re, f],
    );
  },
};

export const tapFlow: Calculation = {
  name: "tap-flow",
  title: "What comes out of a tap at the end of a pipe",
  inputs: [
    input("pressure", "Pressure at the source", "pressure", 276_000, 0, 1_500_000),
    input("rise", "Height of the tap over the source", "length", 0.8, -10, 30),
    input("bore", "Bore", "length", 0.475 * inch, 0.002, 0.2),
    input("length", "Length", "length", 6, 0.01, 500),
    input("k", "Fittings, sum of K", "number", 6, 0, 200, ""),
    input("rated", "What the tap passes at 2 bar", "flow", 6e-3 / 60, 1e-6, 0.01),
  ],
  source: "Darcy-Weisbach as for the pipe; tap by flow coefficient, Q = C·√p. Water of 15 °C.",
  work: ({ pressure = 0, rise = 0, bore = 0, length = 0, k = 0, rated = 0 }) => {
    const coefficient = rated / Math.sqrt(200_000);
    const liquid = { densityKgM3: 999.1, viscosityPaS: 1.138e-3 };
    const solved = solveHydraulics({
      nodes: [
        { id: "source", heightM: 0, fixedPa: pressure },
        { id: "tap", heightM: rise },
      ],
      elements: [
        {
          id: "pipe",
          kind: "pipe",
          from: 0,
          to: 1,
          lengthM: length,
          boreM: bore,
          roughnessM: ROUGHNESS_M,
          lossK: k,
          liquid,
        },
      ],
      outlets: [
        { id: "tap", node: 1, heightM: rise, coefficient, densityKgM3: liquid.densityKgM3 },
      ],
    });
    if (!solved.ok) return refused(solved.problem);
    const flow = figure("Flow", solved.outM3PerS[0] ?? 0, "flow");
    const at = figure(
      "Pressure at the open tap",
      Math.max(0, solved.pressuresPa[1] ?? 0),
      "pressure",
    );
    return answered(
      flow,
      [
        line(at, "p − ρ · g · h − losses at this flow", {
          p: pressure,
          ρ: liquid.densityKgM3,
          g: GRAVITY,
          h: rise,
        }),
        line(flow, "C · √p", { C: coefficient, p: at.value }),
      ],
      [at],
    );
  },
};

/** What an accumulator gives between cut-out and cut-in, with its working; or what cannot be. */
export const givenBetween = (
  { volume = 0, precharge = 0, cutIn = 0, cutOut = 0, air = 0 }: Readonly<Record<string, number>>,
  label: string,
): Working | string => {
  if (cutOut <= cutIn) return "The cut-out must lie above the cut-in.";
  if (precharge > cutOut) return "With a precharge above the cut-out no water goes in at all.";
  const [p0, p1, p2] = [precharge + air, Math.max(cutIn, precharge) + air, cutOut + air];
  return line(figure(label, volume * p0 * (1 / p1 - 1 / p2), "volume"), "V · p₀ · (1/p₁ − 1/p₂)", {
    V: volume,
    "p₀": p0,
    "p₁": p1,
    "p₂": p2,
  });
};

export const accumulatorDraw: Calculation = {
  name: "accumulator",
  title: "What an accumulator gives between cut-out and cut-in",
  inputs: [
    input("volume", "Volume", "volume", 1e-3, 1e-5, 0.2),
    input("precharge", "Precharge", "pressure", 140_000, 0, 1_000_000),
    input("cutIn", "Cut-in", "pressure", 170_000, 1_000, 1_000_000),
    input("cutOut", "Cut-out", "pressure", 310_000, 1_000, 1_500_000),
    input("air", "Pressure of the air outside", "pressure", SEA_LEVEL_PA, 50_000, 110_000),
  ],
  source: "Boyle's law, pressures counted from a vacuum: ΔV = V · p₀ · (1/p₁ − 1/p₂).",
  thumb: "A precharge a little under the cut-in; read it with the water pressure at zero.",
  work: (given) => {
    const draw = givenBetween(given, "Water given");
    return typeof draw === "string" ? refused(draw) : answered(draw, [draw]);
  },
};

export const receiverTime: Calculation = {
  name: "receiver",
  title: "How long a receiver blows",
  inputs: [
    input("volume", "Receiver", "volume", 0.024, 0.001, 1),
    input("from", "Pressure at first", "pressure", 830_000, 1_000, 1_500_000),
    input("to", "Regulated to", "pressure", 345_000, 0, 1_000_000),
    input("net", "Free air used, less what the compressor gives", "flow", 0.0014, 1e-6, 0.1),
    input("air", "Pressure of the air outside", "pressure", SEA_LEVEL_PA, 50_000, 110_000),
  ],
  source:
    "Boyle's law, slowly: t = V · (p₁ − p₂) / (p_air · Q). Fast, the air cools and gives about a fifth less.",
  caution:
    "Never above what the weakest part bears; eye protection; a hose end under pressure whips.",
  work: ({ volume = 0, from = 0, to = 0, net = 1, air = 1 }) => {
    if (to >= from) return refused("The receiver must begin above the regulated pressure.");
    const free = figure("Free air stored between the two", (volume * (from - to)) / air, "volume");
    const time = figure("Time", free.value / net, "time");
    return answered(
      time,
      [
        line(free, "V · (p₁ − p₂) / p_air", { V: volume, "p₁": from, "p₂": to, p_air: air }),
        line(time, "V_free / Q", { V_free: free.value, Q: net }),
      ],
      [free],
    );
  },
};

export const hatchForce: Calculation = {
  name: "hatch-force",
  title: "Force on a hatch or panel at a test pressure",
  inputs: [
    input("pressure", "Test pressure", "pressure", 10_000, 0, 100_000),
    input("length", "Length", "length", 0.45, 0.01, 5),
    input("width", "Width", "length", 0.3, 0.01, 5),
  ],
  source: "Pressure times area.",
  thumb:
    "1.5 psi does not sound like much: on a hatch of 12 by 18 in it is the weight of two people.",
  caution:
    "Stay clear of hatches under test. Pressures of tanks are in inches of water, not in psi.",
  work: ({ pressure = 0, length = 0, width = 0 }) => {
    const force = figure("Force", pressure * length * width, "force");
    return answered(force, [line(force, "p · l · b", { p: pressure, l: length, b: width })]);
  },
};
