import { type Network, kindOfPart } from "../watermap/index.ts";

/** A piece that stays joined when every valve is shut. */
export interface Section {
  readonly cells: readonly number[];
  /** Parts and runs in it. */
  readonly owners: readonly string[];
  /** Controls that shut it off from other sections. */
  readonly bounds: readonly string[];
  readonly volumeM3: number;
}

/**
 * The sections of a map's wet side: what remains joined when every valve is shut and every selector stands between its ways.
 * A pump bounds a section too: its valves hold either way when it stands.
 */
export const sectionsOf = (network: Network): Section[] => {
  const cutters = new Set(
    network.controls
      .filter((c) => c.spec.role === "valve" || c.spec.role === "selector")
      .map((c) => c.key),
  );
  const size = network.cells.length;
  const waste = (cell: number): boolean => {
    const { form, part } = network.cells[cell] ?? {};
    return (
      form === "waste-pipe" ||
      form === "trap" ||
      (part !== undefined && kindOfPart(part).role.vessel === "waste")
    );
  };
  const cuts = network.links.map(
    (l) => l.drivenBy !== undefined || l.gates.some((g) => cutters.has(g.key)),
  );
  const owner = Array.from({ length: size }, () => -1);
  const sections: { cells: number[]; bounds: Set<string> }[] = [];
  for (let start = 0; start < size; start++) {
    if ((owner[start] as number) >= 0 || waste(start)) continue;
    const section = { cells: [start], bounds: new Set<string>() };
    owner[start] = sections.length;
    for (let i = 0; i < section.cells.length; i++) {
      const at = section.cells[i] as number;
      for (const l of network.linksOf[at] ?? []) {
        const link = network.links[l];
        if (!link) continue;
        if (cuts[l]) {
          for (const gate of link.gates) if (cutters.has(gate.key)) section.bounds.add(gate.key);
          if (link.drivenBy) section.bounds.add(link.drivenBy);
          continue;
        }
        const next = link.a === at ? link.b : link.a;
        if (
          (owner[next] as number) >= 0 ||
          waste(next) ||
          link.gates.some((g) => g.in.length === 0)
        )
          continue;
        owner[next] = sections.length;
        section.cells.push(next);
      }
    }
    sections.push(section);
  }
  return (
    sections
      .map(({ cells, bounds }) => ({
        cells: cells.toSorted((a, b) => a - b),
        owners: [...new Set(cells.map((c) => network.cells[c]?.ownerId ?? ""))].toSorted(),
        bounds: [...bounds].toSorted(),
        volumeM3: cells.reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0),
      }))
      // What stays in a valve's own ball is no section.
      .filter((s) => s.cells.some((c) => network.cells[c]?.run) || s.owners.length > 1)
      .toSorted(
        (a, b) => b.volumeM3 - a.volumeM3 || ((a.owners[0] ?? "") < (b.owners[0] ?? "") ? -1 : 1),
      )
  );
};
