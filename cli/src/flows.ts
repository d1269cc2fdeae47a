import { COMMON_FLOW_SETTINGS, type FlowSettings, mapFlows } from "@uppershed/core/flows";
import { controlNamed, positionNamed } from "@uppershed/core/simulation";
import {
  buildNetwork,
  inUseLineup,
  type Lineup,
  type Network,
  type WaterMap,
} from "@uppershed/core/watermap";

/** Flows and pressures for the command line: a lineup said in tags or ids, and what comes of it. */

export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: string };

const bad = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

/** "V3=shut" taken apart at its last "=". */
const pair = (text: string): [key: string, value: string] => {
  const at = text.lastIndexOf("=");
  return at < 0 ? [text, ""] : [text.slice(0, at).trim(), text.slice(at + 1).trim()];
};

/** The lineup and openings that "--set" and "--open" ask for, upon a unit in use. */
const asked = (
  network: Network,
  set: readonly string[],
  open: readonly string[],
): Answer<{ lineup: Lineup; openings: Record<string, number> }> => {
  const lineup: Record<string, string> = { ...inUseLineup(network) };
  const openings: Record<string, number> = {};
  for (const text of set) {
    const [key, position] = pair(text);
    const control = controlNamed(network, key);
    if (!control.ok) return control;
    const found = positionNamed(control.value, position);
    if (!found.ok) return found;
    lineup[control.value.key] = found.value;
  }
  for (const text of open) {
    const [key, share] = pair(text);
    const control = controlNamed(network, key);
    if (!control.ok) return control;
    const value = share === "" ? 1 : Number(share);
    if (!(value >= 0 && value <= 1))
      return bad(`--open ${text}: how far it is open is a number from 0 to 1`);
    if (!control.value.spec.positions.some((p) => p.name === "open"))
      return bad(`${key} cannot be opened`);
    lineup[control.value.key] = value === 0 ? "shut" : "open";
    openings[control.value.key] = value;
  }
  return { ok: true, value: { lineup, openings } };
};

/** Flows by run and pressures by part, SI units; positive from a run's `from` to its `to`. */
export const solveAnswer = (
  map: WaterMap,
  said: { readonly set: readonly string[]; readonly open: readonly string[] },
  settings: Partial<FlowSettings> = {},
): Answer<object> => {
  const network = buildNetwork(map);
  const wanted = asked(network, said.set, said.open);
  if (!wanted.ok) return wanted;
  const { lineup, openings } = wanted.value;
  const flows = mapFlows(network, lineup, { ...COMMON_FLOW_SETTINGS, ...settings, openings });
  if (!flows.ok) return bad(flows.problem);
  return {
    ok: true,
    value: {
      map: map.id,
      flowsM3PerS: Object.fromEntries(flows.flowsM3PerS),
      pressuresPa: Object.fromEntries(flows.pressuresPa),
      ...(flows.boils.length > 0
        ? {
            warning: `The water would boil before so much came: nothing, or a rattling pump, at ${flows.boils.join(", ")}.`,
          }
        : {}),
      outM3PerS: Object.fromEntries(flows.outM3PerS),
    },
  };
};
