import {
  type Control,
  inUseLineup,
  kindOfPart,
  type Lineup,
  linkOpen,
  type Mode,
  type Network,
  type Opening,
  reachInOrder,
} from "../watermap/index.ts";

/** The lineup of every mode, proposed by the graph; what the technician has corrected stands above it. */

interface Want {
  /** Cells from which water, air or product is to come. */
  readonly from: readonly number[];
  /** Openings or vessels that it is to reach. */
  readonly to: readonly number[];
  /** Cells that it must keep out of, the most important first. */
  readonly not: readonly number[];
}

const isTurnable = (control: Control): boolean =>
  control.spec.role === "valve" || control.spec.role === "selector";

const reaches = (
  network: Network,
  lineup: Lineup,
  starts: readonly number[],
  closed: ReadonlySet<number> = new Set(),
): Set<number> =>
  new Set(
    reachInOrder(network, starts, (i, from, to) => {
      const link = network.links[i];
      if (!link || !linkOpen(link, lineup) || (link.oneWay && link.a !== from) || closed.has(to))
        return false;
      return !link.drivenBy || lineup[link.drivenBy] === "on";
    }),
  );

interface Score {
  readonly missed: number;
  readonly wrong: number;
  readonly turned: number;
}

const better = (a: Score, b: Score): boolean =>
  a.missed !== b.missed
    ? a.missed < b.missed
    : a.wrong !== b.wrong
      ? a.wrong < b.wrong
      : a.turned < b.turned;

const ROUNDS = 6;
const MOVES_FOR_THREE = 24;

/** Turns valves and selectors, one or two at a time, for as long as that gets nearer to what is wanted with fewer turns. */
const settle = (network: Network, base: Lineup, want: Want, may: readonly Control[]): Lineup => {
  const score = (lineup: Lineup): Score => {
    const got = reaches(network, lineup, want.from);
    return {
      missed: want.to.filter((c) => !got.has(c)).length,
      wrong: want.not.reduce((sum, c, i) => sum + (got.has(c) ? want.not.length - i : 0), 0),
      turned: may.filter((c) => lineup[c.key] !== base[c.key]).length,
    };
  };
  let lineup = base;
  let best = score(base);
  const moves = may.flatMap((c) => c.spec.positions.map((p) => [c.key, p.name] as const));
  for (let round = 0; round < ROUNDS; round++) {
    let found: Lineup | undefined;
    const consider = (candidate: Lineup): void => {
      const value = score(candidate);
      if (better(value, best)) {
        best = value;
        found = candidate;
      }
    };
    for (const [key, position] of moves)
      if (lineup[key] !== position) consider({ ...lineup, [key]: position });
    if (!found)
      for (const [i, [keyA, a]] of moves.entries())
        for (const [keyB, b] of moves.slice(i + 1))
          if (keyA !== keyB && (lineup[keyA] !== a || lineup[keyB] !== b))
            consider({ ...lineup, [keyA]: a, [keyB]: b });
    // A bypass of three valves is turned by three hands at once or not at all.
    if (!found && best.missed + best.wrong > 0 && moves.length <= MOVES_FOR_THREE)
      for (const [i, [keyA, a]] of moves.entries())
        for (const [j, [keyB, b]] of moves.entries())
          for (const [keyC, c] of j > i && keyB !== keyA ? moves.slice(j + 1) : [])
            if (
              keyC !== keyA &&
              keyC !== keyB &&
              [keyA, keyB, keyC].every((k, n) => lineup[k] !== [a, b, c][n])
            )
              consider({ ...lineup, [keyA]: a, [keyB]: b, [keyC]: c });
    if (!found) return lineup;
    lineup = found;
  }
  return lineup;
};

const positionsFor = (
  network: Network,
  roles: readonly Control["spec"]["role"][],
  position: string,
): Lineup =>
  Object.fromEntries(
    network.controls.flatMap((c) =>
      roles.includes(c.spec.role) && c.spec.positions.some((p) => p.name === position)
        ? [[c.key, position]]
        : [],
    ),
  );

interface Facts {
  readonly network: Network;
  readonly valves: readonly Control[];
  readonly tanks: readonly number[];
  readonly heaters: readonly number[];
  readonly outlets: readonly number[];
  readonly inlets: readonly Opening[];
  readonly pickups: readonly Opening[];
  readonly fills: readonly number[];
}

/** Cells of heaters that heat water as it passes: a spoonful in their tubes matters as a vessel does. */
const throughHeaters = (network: Network): number[] =>
  network.cells.flatMap((c, i) =>
    c.part &&
    kindOfPart(c.part).group === "heat" &&
    !kindOfPart(c.part).role.vessel &&
    c.frostBasis === "no-ice"
      ? [i]
      : [],
  );

const factsOf = (network: Network): Facts => {
  const vessels = (role: string): number[] =>
    network.cells.flatMap((c, i) =>
      c.part && c.form === "vessel" && kindOfPart(c.part).role.vessel === role ? [i] : [],
    );
  const raw = new Set(
    network.map.runs.filter((r) => r.service === "raw").flatMap((r) => [r.from.part, r.to.part]),
  );
  const openingsFor = (wanted: string): Opening[] =>
    network.openings.filter((o) => o.use === wanted && !raw.has(o.part.id));
  return {
    network,
    valves: network.controls.filter(
      (c) => isTurnable(c) && kindOfPart(c.part).group !== "waste" && !raw.has(c.part.id),
    ),
    tanks: vessels("fresh"),
    heaters: [...vessels("heater"), ...throughHeaters(network)],
    outlets: [...new Set(openingsFor("outlet").map((o) => o.cell))],
    inlets: openingsFor("supply"),
    pickups: openingsFor("pickup"),
    fills: openingsFor("fill").map((o) => o.cell),
  };
};

const pumpsOn = (network: Network, on: boolean): Lineup =>
  Object.fromEntries(
    network.controls.flatMap((c) =>
      c.spec.role === "switch" && !kindOfPart(c.part).role.byHand
        ? [[c.key, on ? "on" : "off"]]
        : [],
    ),
  );

const gateOf = (openings: readonly Opening[]): Lineup =>
  Object.fromEntries(
    openings.flatMap((o) => (o.gate ? [[o.gate.key, o.gate.in[0] ?? "open"]] : [])),
  );

const PROPOSALS: Readonly<Record<Mode, (facts: Facts, use: Lineup) => Lineup>> = {
  "use on tank": ({ network, valves, tanks, outlets, heaters, pickups }, use) =>
    settle(
      network,
      { ...use, ...pumpsOn(network, true) },
      { from: tanks, to: [...outlets, ...heaters], not: pickups.map((o) => o.cell) },
      valves,
    ),
  "use on supply": ({ network, valves, tanks, outlets, heaters, inlets }, use) =>
    inlets.length === 0
      ? use
      : settle(
          network,
          { ...use, ...pumpsOn(network, false), ...gateOf(inlets) },
          { from: inlets.map((o) => o.cell), to: [...outlets, ...heaters], not: tanks },
          valves,
        ),
  "fill tank": ({ network, valves, tanks, inlets, fills }, use) => {
    const off = { ...use, ...pumpsOn(network, false) };
    const bySupply = settle(
      network,
      { ...off, ...gateOf(inlets) },
      { from: inlets.map((o) => o.cell), to: tanks, not: [] },
      valves,
    );
    const reached = reaches(
      network,
      bySupply,
      inlets.map((o) => o.cell),
    );
    if (inlets.length > 0 && tanks.some((t) => reached.has(t))) return bySupply;
    return {
      ...off,
      ...gateOf(network.openings.filter((o) => o.use === "fill" && fills.includes(o.cell))),
    };
  },
  drain: ({ network, valves }, use) => ({
    ...use,
    ...pumpsOn(network, false),
    ...Object.fromEntries(
      valves.filter((c) => c.spec.role === "valve").map((c) => [c.key, "open"]),
    ),
    ...positionsFor(network, ["outlet", "drain", "plug"], "open"),
    ...gateOf(network.openings.filter((o) => o.use === "supply")),
    // Waste tanks have been emptied before; their valves are shut again.
    ...Object.fromEntries(
      network.controls
        .filter((c) => kindOfPart(c.part).group === "waste" && c.spec.role === "drain")
        .map((c) => [c.key, "shut"]),
    ),
    ...Object.fromEntries(
      network.controls
        .filter((c) => kindOfPart(c.part).role.vessel === "waste" && c.spec.role === "drain")
        .map((c) => [c.key, "shut"]),
    ),
  }),
  blow: ({ network, valves, tanks, outlets, inlets, heaters }, use) =>
    inlets.length === 0
      ? { ...use, ...pumpsOn(network, false) }
      : settle(
          network,
          { ...use, ...pumpsOn(network, false), ...gateOf(inlets) },
          // An empty heater in line is a receiver: of the ways that reach every outlet, the one with fewest turns.
          { from: inlets.map((o) => o.cell), to: [...outlets, ...heaters], not: tanks },
          valves,
        ),
  "draw antifreeze": ({ network, valves, tanks, outlets, heaters, pickups }, use) => {
    const base = { ...use, ...pumpsOn(network, true), ...gateOf(pickups) };
    if (pickups.length === 0)
      return settle(network, base, { from: tanks, to: outlets, not: heaters }, valves);
    // The tank must not feed the pump beside the jug: whatever the pickup reaches, the tank must not.
    const drawn = settle(
      network,
      base,
      { from: pickups.map((o) => o.cell), to: outlets, not: [...tanks, ...heaters] },
      valves,
    );
    return settle(
      network,
      drawn,
      { from: pickups.map((o) => o.cell), to: outlets, not: [...tanks, ...heaters] },
      valves,
    );
  },
  sanitize: ({ network, valves, tanks, outlets, heaters, pickups }, use) =>
    settle(
      network,
      { ...use, ...pumpsOn(network, true) },
      { from: tanks, to: [...outlets, ...heaters], not: pickups.map((o) => o.cell) },
      valves,
    ),
  stored: ({ network, valves, tanks, outlets, heaters, inlets }, use) => {
    // What keeps a heater apart from lines that hold antifreeze stays so all winter; seacocks and everything else stand as each is kept.
    const from = tanks.length > 0 ? tanks : inlets.map((o) => o.cell);
    const apart = settle(
      network,
      { ...use, ...pumpsOn(network, true), ...gateOf(inlets) },
      { from, to: outlets, not: heaters },
      valves,
    );
    const inLine = new Set(valves.map((c) => c.key));
    const position = (c: Control): string => {
      if (inLine.has(c.key)) return apart[c.key] ?? c.spec.inUse;
      return isTurnable(c) && kindOfPart(c.part).group === "waste"
        ? (use[c.key] ?? c.spec.inUse)
        : c.spec.stored;
    };
    return Object.fromEntries(network.controls.map((c) => [c.key, position(c)]));
  },
};

/** Shuts the tank off from the pump where the jug feeds it: a valve or selector on the tank's line. */
const jugAlone = (facts: Facts, lineup: Lineup): Lineup => {
  const { network, valves, tanks, pickups } = facts;
  if (pickups.length === 0) return lineup;
  const feeds = (l: Lineup, from: readonly number[]): boolean => {
    const got = reaches(network, { ...l, ...pumpsOn(network, true) }, from);
    return network.links.some((link) => link.drivenBy && got.has(link.a) && got.has(link.b));
  };
  if (!feeds(lineup, tanks)) return lineup;
  for (const control of valves)
    for (const position of control.spec.positions) {
      const tried = { ...lineup, [control.key]: position.name };
      if (
        !feeds(tried, tanks) &&
        feeds(
          tried,
          pickups.map((o) => o.cell),
        )
      )
        return tried;
    }
  return lineup;
};

/** The lineup that the graph proposes for a mode. Every control has a position in it. */
export const proposeMode = (network: Network, mode: Mode): Lineup => {
  const facts = factsOf(network);
  const proposed = PROPOSALS[mode](facts, inUseLineup(network));
  return mode === "draw antifreeze" ? jugAlone(facts, proposed) : proposed;
};

/** The lineup of a mode: proposed, then corrected by the technician. */
export const modeLineup = (network: Network, mode: Mode): Lineup => ({
  ...proposeMode(network, mode),
  ...network.map.modes[mode],
});
