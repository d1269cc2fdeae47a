import { type Contents, liquidIn, volumeOf } from "../contents/index.ts";
import { kindOfPart, type Lineup, type Network, runsAt } from "../watermap/index.ts";

// Under this share of its room a heater is called empty: what stays below a plug's lip is about five per cent.
const EMPTY_SHARE = 0.1;
// Weaker than this by volume nobody would call it antifreeze. Our own line, no source.
const ANTIFREEZE_SHARE = 0.25;

/** Valves that stand next to a part, with nothing but pipe and tees between. */
const valvesBeside = (network: Network, partId: string): Set<string> => {
  const { map } = network;
  const kinds = new Map(map.parts.map((p) => [p.id, kindOfPart(p)]));
  const seen = new Set([partId]);
  const found = new Set<string>();
  const open = [partId];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const run of runsAt(map, id)) {
      const next = run.from.part === id ? run.to.part : run.from.part;
      if (seen.has(next)) continue;
      seen.add(next);
      if (kinds.get(next)?.role.joint) open.push(next);
      else if (kinds.get(next)?.group === "control") found.add(next);
    }
  return found;
};

/** How the heaters stand, in words for a unit's one sentence: "heater bypassed, empty". */
export const heatersInWords = (network: Network, contents: Contents, lineup: Lineup): string[] =>
  network.map.parts.flatMap((part) => {
    if (kindOfPart(part).role.vessel !== "heater") return [];
    const cells = network.cells.flatMap((cell, i) =>
      cell.ownerId === part.id ? [{ cell, i }] : [],
    );
    const room = cells.reduce((sum, { cell }) => sum + cell.capacityM3, 0);
    if (room === 0) return [];
    const liquids = cells.map(({ i }) => liquidIn(contents[i]));
    const held = liquids.reduce((sum, l) => sum + volumeOf(l), 0);
    const glycol = liquids.reduce((sum, l) => sum + l.glycolM3, 0);
    const beside = valvesBeside(network, part.id);
    const bypassed = network.controls.some(
      (c) =>
        beside.has(c.part.id) &&
        c.spec.role !== "check" &&
        (lineup[c.key] ?? c.spec.inUse) !== (network.map.lineup[c.key] ?? c.spec.inUse),
    );
    const words = [
      ...(bypassed ? ["bypassed"] : []),
      held < EMPTY_SHARE * room
        ? "empty"
        : glycol < ANTIFREEZE_SHARE * held
          ? "holding water"
          : "holding antifreeze",
    ];
    return [`${part.name.charAt(0).toLowerCase()}${part.name.slice(1)} ${words.join(", ")}`];
  });
