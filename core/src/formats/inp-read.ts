import { built, type Joint, type Line, type Node } from "./inp-build.ts";
import { FOOT_M, INCH_M, PA_PER_M } from "../quantity/index.ts";
import { kindOfPart, PIPE_SYSTEMS, readWaterMap, type WaterMap } from "../watermap/index.ts";
import { type FileProblem, MOST_BYTES } from "./text.ts";

/** An EPANET input file as a water map: its junctions, tanks, reservoirs, pipes, pumps and valves; the rest is told in the report. */

export type InpImport =
  | { readonly ok: true; readonly map: WaterMap; readonly report: readonly string[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const CARRIED = [
  "JUNCTIONS",
  "RESERVOIRS",
  "TANKS",
  "PIPES",
  "PUMPS",
  "VALVES",
  "EMITTERS",
  "STATUS",
  "OPTIONS",
  "TITLE",
  "DEMANDS",
] as const;
const SILENT = new Set([
  "END",
  "COORDINATES",
  "CURVES",
  "TIMES",
  "REPORT",
  "BACKDROP",
  "VERTICES",
  "LABELS",
  "TAGS",
]);

/** The file's lines by section. Comments stay beside the line: our own files keep names there. */
const sectionsOf = (text: string): { sections: Map<string, Line[]>; problems: FileProblem[] } => {
  const sections = new Map<string, Line[]>();
  const problems: FileProblem[] = [];
  let section: Line[] | undefined;
  text.split(/\r\n|\n|\r/u).forEach((raw, i) => {
    const at = raw.indexOf(";");
    const words = (at < 0 ? raw : raw.slice(0, at)).trim().split(/\s+/u).filter(Boolean);
    if (words.length === 0) return;
    const first = words[0] ?? "";
    if (first.startsWith("[")) {
      const name = first.replaceAll(/[[\]]/gu, "").toUpperCase();
      section = sections.get(name) ?? [];
      sections.set(name, section);
      return;
    }
    if (!section)
      problems.push({
        line: i + 1,
        where: first.slice(0, 30),
        problem: "stands before the first section.",
      });
    else section.push({ line: i + 1, words, note: at < 0 ? "" : raw.slice(at + 1).trim() });
  });
  return { sections, problems };
};

const number = (
  line: Line,
  index: number,
  field: string,
  problems: FileProblem[],
  standard?: number,
): number => {
  const word = line.words[index];
  if (word === undefined && standard !== undefined) return standard;
  const value = Number(word);
  if (word !== undefined && Number.isFinite(value)) return value;
  problems.push({
    line: line.line,
    where: field,
    problem: word === undefined ? "is missing." : `"${word.slice(0, 30)}" is not a number.`,
  });
  return 0;
};

/** Metres and millimetres, or feet and inches, by the unit of flow. */
const scales = (options: readonly Line[]): { lengthM: number; boreM: number } => {
  const units =
    options.find((l) => l.words[0]?.toUpperCase() === "UNITS")?.words[1]?.toUpperCase() ?? "GPM";
  const us = ["CFS", "GPM", "MGD", "IMGD", "AFD"].includes(units);
  return us ? { lengthM: FOOT_M, boreM: INCH_M } : { lengthM: 1, boreM: 0.001 };
};

/** The pressure pipe whose bore is nearest. */
const nearestPipe = (boreM: number): { pipe: string; apart: number } => {
  const candidates = [...PIPE_SYSTEMS.values()].filter((s) => !s.waste);
  const best = candidates.reduce((a, b) =>
    Math.abs(b.boreM - boreM) < Math.abs(a.boreM - boreM) ? b : a,
  );
  return { pipe: best.pipe, apart: Math.abs(best.boreM - boreM) };
};

const MOST_NODES = 200;

const nodesOf = (
  sections: ReadonlyMap<string, Line[]>,
  scale: { lengthM: number },
  problems: FileProblem[],
): Map<string, Node> => {
  const nodes = new Map<string, Node>();
  const add = (line: Line, node: Omit<Node, "line">): void => {
    if (nodes.has(node.id))
      problems.push({ line: line.line, where: node.id.slice(0, 30), problem: "is there twice." });
    nodes.set(node.id, { ...node, line });
  };
  for (const line of sections.get("JUNCTIONS") ?? [])
    add(line, {
      id: line.words[0] ?? "",
      kind: "junction",
      heightM: number(line, 1, "elevation", problems, 0) * scale.lengthM,
    });
  for (const line of sections.get("RESERVOIRS") ?? [])
    add(line, { id: line.words[0] ?? "", kind: "reservoir", heightM: 0.5 });
  for (const line of sections.get("TANKS") ?? []) {
    const depthM = number(line, 4, "most level", problems) * scale.lengthM;
    const diameterM = number(line, 5, "diameter", problems) * scale.lengthM;
    add(line, {
      id: line.words[0] ?? "",
      kind: "tank",
      heightM: number(line, 1, "elevation", problems) * scale.lengthM,
      depthM,
      volumeL: (Math.PI / 4) * diameterM * diameterM * depthM * 1000,
    });
  }
  return nodes;
};

const jointsOf = (
  sections: ReadonlyMap<string, Line[]>,
  scale: { lengthM: number; boreM: number },
  problems: FileProblem[],
  report: string[],
): Joint[] => {
  const shut = new Set(
    (sections.get("STATUS") ?? [])
      .filter((l) => l.words[1]?.toUpperCase() === "CLOSED")
      .map((l) => l.words[0] ?? ""),
  );
  const pipes = (sections.get("PIPES") ?? []).map<Joint>((line) => {
    const boreM = number(line, 4, "diameter", problems) * scale.boreM;
    const near = nearestPipe(boreM);
    const [id = "", from = "", to = ""] = line.words;
    if (near.apart > 0.0008)
      report.push(`${id}: a bore of ${(boreM * 1000).toFixed(1)} mm became ${near.pipe}.`);
    const status = (line.words[7] ?? line.words[6] ?? "OPEN").toUpperCase();
    return {
      id,
      from,
      to,
      line,
      lengthM: number(line, 3, "length", problems) * scale.lengthM,
      pipe: near.pipe,
      is: status === "CV" ? "check" : status === "CLOSED" || shut.has(id) ? "shut" : "pipe",
    };
  });
  const pumps = (sections.get("PUMPS") ?? []).map<Joint>((line) => {
    const [id = "", from = "", to = ""] = line.words;
    report.push(
      `${id}: the pump's curve is not carried; a usual diaphragm pump stands in its place.`,
    );
    return { id, from, to, line, lengthM: 0.3, pipe: "hose-13", is: "pump" };
  });
  const valves = (sections.get("VALVES") ?? []).map<Joint>((line) => {
    const [id = "", from = "", to = ""] = line.words;
    const type = (line.words[4] ?? "").toUpperCase();
    const pipe = nearestPipe(number(line, 3, "diameter", problems) * scale.boreM).pipe;
    if (type === "PRV")
      return {
        id,
        from,
        to,
        line,
        lengthM: 0.2,
        pipe,
        is: "regulator",
        setPa: number(line, 5, "setting", problems) * scale.lengthM * PA_PER_M,
      };
    report.push(`${id}: a ${type || "valve"} became a ball valve; its setting is not carried.`);
    return { id, from, to, line, lengthM: 0.2, pipe, is: "valve" };
  });
  return [...pipes, ...pumps, ...valves];
};

const RUN_NOTE = /^([a-z0-9][a-z0-9-]*) "([^"]+)"$/u;
const PART_NOTE = /^([a-z0-9][a-z0-9-]*) "/u;

/** Our own file read back onto its map: lengths, sizes and heights; what it is made of stays as the map has it. */
const updated = (
  base: WaterMap,
  sections: ReadonlyMap<string, Line[]>,
  scale: { lengthM: number },
  report: string[],
): WaterMap | undefined => {
  const pipes = (sections.get("PIPES") ?? []).flatMap((line) => {
    const found = RUN_NOTE.exec(line.note);
    return found && base.runs.some((r) => r.id === found[1])
      ? [{ line, id: found[1] ?? "", pipe: found[2] ?? "" }]
      : [];
  });
  if (pipes.length === 0) return undefined;
  const lengths = new Map(
    pipes.map((p) => [p.id, { lengthM: Number(p.line.words[3]) * scale.lengthM, pipe: p.pipe }]),
  );
  const tanks = new Map(
    (sections.get("TANKS") ?? []).map((line) => [PART_NOTE.exec(line.note)?.[1] ?? "", line]),
  );
  report.push(
    "Read onto this unit's own map: lengths, pipes and tank sizes are taken, everything else stays.",
  );
  return {
    ...base,
    runs: base.runs.map((run) => {
      const said = lengths.get(run.id);
      if (!said) return run;
      const changed = Math.abs(said.lengthM - run.lengthM) > 1e-4;
      const pipe = PIPE_SYSTEMS.has(said.pipe) ? said.pipe : run.pipe;
      if (!changed && pipe === run.pipe) return run;
      const { assumed: _, ...seen } = run;
      return { ...seen, lengthM: changed ? Number(said.lengthM.toFixed(4)) : run.lengthM, pipe };
    }),
    parts: base.parts.map((part) => {
      const line = tanks.get(part.id);
      if (!line || kindOfPart(part).role.vessel !== "fresh") return part;
      const [depth, diameter] = [
        Number(line.words[4]) * scale.lengthM,
        Number(line.words[5]) * scale.lengthM,
      ];
      const volumeL = Number(((Math.PI / 4) * diameter * diameter * depth * 1000).toFixed(1));
      const was = Number(part.params["volumeL"] ?? 150);
      return Math.abs(volumeL - was) / was < 0.002
        ? part
        : { ...part, params: { ...part.params, volumeL, depthM: Number(depth.toFixed(3)) } };
    }),
  };
};

const named = (lines: readonly Line[]): string => {
  const ids = lines.map((l) => l.words[0] ?? "");
  return ids.length > 5
    ? `${ids.slice(0, 5).join(", ")} and ${ids.length - 5} more`
    : ids.join(", ");
};

/** Figures of somebody else's file that a water map has no place for, and what that does to the answer. */
const lost = (sections: ReadonlyMap<string, Line[]>): string[] => {
  const of = (title: string): readonly Line[] => sections.get(title) ?? [];
  const above0 = (title: string, column: number): Line[] =>
    of(title).filter((l) => Number(l.words[column] ?? 0) > 0);
  const heads = of("RESERVOIRS");
  const demands = [...above0("JUNCTIONS", 2), ...above0("DEMANDS", 1)];
  const emitters = above0("EMITTERS", 1);
  const rough = above0("PIPES", 5);
  const losses = above0("PIPES", 6);
  return [
    ...(heads.length > 0
      ? [
          `Heads of ${named(heads)} are not carried: each is a site tap at the usual pressure, and pressures come out otherwise.`,
        ]
      : []),
    ...(demands.length > 0
      ? [
          `Demands at ${named(demands)} are not carried: each is a tap that gives what its pressure lets it, not a set flow.`,
        ]
      : []),
    ...(emitters.length > 0
      ? [
          `Emitter coefficients of ${named(emitters)} are not carried: each lets out what a usual tap does.`,
        ]
      : []),
    ...(rough.length > 0
      ? [
          `Roughness of ${rough.length} pipes is not carried: all count as smooth plastic, and old or metal pipe loses more than is told.`,
        ]
      : []),
    ...(losses.length > 0
      ? [
          `Loss factors of ${named(losses)} are not carried: fittings count as usual, and more flows than there.`,
        ]
      : []),
  ];
};

/**
 * Reads an EPANET input file.
 * @param base the unit's own map: a file written from it changes its lengths, pipes and tank sizes; any other file becomes a new map
 */
export const readInp = (text: string, base?: WaterMap): InpImport => {
  if (text.length > MOST_BYTES)
    return {
      ok: false,
      problems: [
        { where: "file", problem: `the file is longer than ${MOST_BYTES / 1024 / 1024} MB.` },
      ],
    };
  const { sections, problems } = sectionsOf(text);
  const report: string[] = [];
  if (sections.size === 0)
    return {
      ok: false,
      problems: [
        { where: "file", problem: "there is no [SECTION] in it: this is no EPANET input file." },
      ],
    };
  for (const [name, lines] of sections)
    if (!(CARRIED as readonly string[]).includes(name) && !SILENT.has(name) && lines.length > 0)
      report.push(`[${name}] is not carried (${lines.length} lines).`);
  const scale = scales(sections.get("OPTIONS") ?? []);
  const nodes = nodesOf(sections, scale, problems);
  const joints = jointsOf(sections, scale, problems, report);
  for (const joint of joints)
    for (const node of [joint.from, joint.to])
      if (!nodes.has(node))
        problems.push({
          line: joint.line.line,
          where: joint.id.slice(0, 30),
          problem: `leads to "${node.slice(0, 30)}", which is not there.`,
        });
  if (nodes.size === 0)
    problems.push({ where: "file", problem: "there are no junctions, tanks or reservoirs in it." });
  if (nodes.size > MOST_NODES)
    problems.push({
      where: "file",
      problem: `${nodes.size} nodes; a unit's map takes at most ${MOST_NODES}.`,
    });
  if (problems.length > 0) return { ok: false, problems: problems.slice(0, 50) };
  const own = base && updated(base, sections, scale, report);
  if (!own) report.push(...lost(sections));
  const emitters = new Set([
    ...(sections.get("EMITTERS") ?? []).map((l) => l.words[0] ?? ""),
    ...(sections.get("JUNCTIONS") ?? [])
      .filter((l) => Number(l.words[2] ?? 0) > 0)
      .map((l) => l.words[0] ?? ""),
    ...(sections.get("DEMANDS") ?? [])
      .filter((l) => Number(l.words[1] ?? 0) > 0)
      .map((l) => l.words[0] ?? ""),
  ]);
  const title = (sections.get("TITLE") ?? [])[0]?.words.join(" ") ?? "";
  const read = readWaterMap(own ?? built(nodes, joints, emitters, title, report));
  return read.ok
    ? { ok: true, map: read.map, report: [...new Set(report)] }
    : {
        ok: false,
        problems: read.problems.map((p) => ({ where: p.where, problem: p.problem })).slice(0, 50),
      };
};
