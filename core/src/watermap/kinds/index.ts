import type { PartKind } from "../kind.ts";
import { rawIntake, supplyPost, tankFlushInlet } from "./ways-in.ts";
import { accumulator, manualPump } from "./movers.ts";
import { filterHousing, softener, vacuumBreaker } from "./conditioning.ts";
import {
  diverterPanel,
  gateValve,
  manifold,
  mixingValve,
  motorGateValve,
  plugValve,
} from "./control-valves.ts";
import { onDemandHeater, pointOfUseHeater } from "./heat.ts";
import { dishwasher, iceMaker, rawToilet, washingMachine } from "./appliances.ts";
import { spray, twoSourceTap, washDown } from "./more-outlets.ts";
import { drainPlug, pumpOutFitting, ventFilter, wasteOutlet, wasteVent } from "./more-waste.ts";
import { adapter, bulkhead, coupling, elbow, endPlug, unknownPart } from "./line-fittings.ts";
import { ballValve } from "./ball-valve.ts";
import { checkValve } from "./check-valve.ts";
import { diaphragmPump } from "./diaphragm-pump.ts";
import { freshTank } from "./fresh-tank.ts";
import { gravityFill } from "./gravity-fill.ts";
import { lowPointDrain } from "./low-point-drain.ts";
import { mixerTap } from "./mixer-tap.ts";
import { outsideShower } from "./outside-shower.ts";
import { overboard } from "./overboard.ts";
import { pressureRegulator } from "./pressure-regulator.ts";
import { pressurisedInlet } from "./pressurised-inlet.ts";
import { selectorValve } from "./selector-valve.ts";
import { shower } from "./shower.ts";
import { singleTap } from "./single-tap.ts";
import { storageHeater } from "./storage-heater.ts";
import { strainer } from "./strainer.ts";
import { tankDrain } from "./tank-drain.ts";
import { tee } from "./tee.ts";
import { toilet } from "./toilet.ts";
import { trap } from "./trap.ts";
import { wasteTank } from "./waste-tank.ts";
import { winterizingPickup } from "./winterizing-pickup.ts";

const ALL: readonly PartKind[] = [
  ballValve,
  checkValve,
  diaphragmPump,
  freshTank,
  gravityFill,
  lowPointDrain,
  mixerTap,
  outsideShower,
  overboard,
  pressureRegulator,
  pressurisedInlet,
  selectorValve,
  shower,
  singleTap,
  storageHeater,
  strainer,
  tankDrain,
  tee,
  toilet,
  trap,
  wasteTank,
  winterizingPickup,
  accumulator,
  adapter,
  bulkhead,
  coupling,
  dishwasher,
  diverterPanel,
  drainPlug,
  elbow,
  endPlug,
  filterHousing,
  gateValve,
  iceMaker,
  manifold,
  manualPump,
  mixingValve,
  motorGateValve,
  onDemandHeater,
  plugValve,
  pointOfUseHeater,
  pumpOutFitting,
  rawIntake,
  rawToilet,
  softener,
  spray,
  supplyPost,
  tankFlushInlet,
  twoSourceTap,
  unknownPart,
  vacuumBreaker,
  ventFilter,
  washDown,
  washingMachine,
  wasteOutlet,
  wasteVent,
];

// Every kind and every role has all its properties, and in one order: whatever asks for one finds it where it stood with the last.
const shapedRole = (r: PartKind["role"]): PartKind["role"] => ({
  vessel: r.vessel,
  energies: r.energies,
  pump: r.pump,
  byHand: r.byHand,
  branch: r.branch,
  joint: r.joint,
  flushes: r.flushes,
  guard: r.guard,
  takesChlorine: r.takesChlorine,
  emptied: r.emptied,
  cushion: r.cushion,
  adapts: r.adapts,
  ashore: r.ashore,
  programme: r.programme,
  mystery: r.mystery,
});

const shapedKind = (k: PartKind): PartKind => ({
  kind: k.kind,
  label: k.label,
  about: k.about,
  symbol: k.symbol,
  group: k.group,
  also: k.also,
  lifeMonths: k.lifeMonths,
  params: k.params,
  controls: k.controls,
  role: shapedRole(k.role),
  inspect: k.inspect,
  wears: k.wears,
  fitted: k.fitted,
  anatomy: k.anatomy,
});

/** Every part kind by its name. A new kind is one file and one line here. */
export const PART_KINDS: ReadonlyMap<string, PartKind> = new Map(
  ALL.map((kind) => [kind.kind, shapedKind(kind)]),
);
