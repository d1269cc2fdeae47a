import { type Dimension, parseQuantity } from "@uppershed/core/quantity";
import { airVerdict, simAction, type SimAction, type SimState } from "@uppershed/core/simulation";
import { cellName, kindOfPart, liveOpenings, type Network, roleOf } from "@uppershed/core/watermap";
import { useState } from "react";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { useUnits } from "../ui/units.ts";
import { capital } from "../ui/words.ts";
import { openingWords } from "./say-action.ts";

/** What can be done beside turning and waiting, each with the little that must be said of it. */

type Choice = readonly [value: string, label: string];

type FieldSpec =
  | { readonly name: string; readonly label: string; readonly choose: readonly Choice[] }
  | {
      readonly name: string;
      readonly label: string;
      readonly dimension: Dimension;
      readonly standard: number;
      readonly optional?: boolean;
    }
  | {
      readonly name: string;
      readonly label: string;
      readonly unit: string;
      readonly number: number;
    };

interface Job {
  readonly id: string;
  readonly label: string;
  readonly about: string;
  readonly fields: readonly FieldSpec[];
  readonly make: (values: Readonly<Record<string, string | number | undefined>>) => object;
}

// Where an air hose goes on, the usual first.
const AIR_WAYS = ["supply", "flush", "pickup", "outlet", "low-point"] as const;

const choicesOf = (
  network: Network,
  state: SimState,
): Record<
  | "inlets"
  | "pickups"
  | "ways"
  | "tanks"
  | "vessels"
  | "heaters"
  | "traps"
  | "machines"
  | "pipes"
  | "undone"
  | "cells",
  Choice[]
> => {
  const live = liveOpenings({ network, lineup: state.lineup, apart: state.apart });
  const named = (ids: readonly string[]): Choice[] =>
    [...new Set(ids)].map((id) => [id, openingWords(network, id)]);
  const all = network.openings;
  const undone = live.flatMap((o) => (o.undone ? [{ id: o.id, ...o.undone }] : []));
  const joint = ({ id, run, side }: (typeof undone)[number]): Choice => [
    id,
    `undone joint of ${run}, ${side}'s side`,
  ];
  const parts = (want: (id: string) => boolean): Choice[] =>
    network.map.parts
      .filter((p) => want(p.id))
      .map((p) => [p.id, p.tag ? `${p.tag}, ${p.name}` : p.name]);
  const part = (id: string) => network.map.parts.find((p) => p.id === id);
  const vessel = (id: string) => {
    const p = part(id);
    return p && roleOf(p).vessel;
  };
  return {
    inlets: named(all.filter((o) => o.use === "supply" || o.use === "flush").map((o) => o.id)),
    pickups: [
      ...named(all.filter((o) => o.use === "pickup").map((o) => o.id)),
      ...undone.filter((o) => o.side === "part").map(joint),
    ],
    ways: [
      ...named(AIR_WAYS.flatMap((use) => all.filter((o) => o.use === use)).map((o) => o.id)),
      ...undone.map(joint),
    ],
    tanks: parts((id) => vessel(id) === "fresh"),
    vessels: parts((id) => vessel(id) === "fresh" || vessel(id) === "heater"),
    heaters: parts((id) => {
      const p = part(id);
      return p !== undefined && kindOfPart(p).group === "heat";
    }),
    traps: parts((id) => network.cells.some((c) => c.ownerId === id && c.form === "trap")),
    machines: parts((id) =>
      ["washing-machine", "dishwasher", "ice-maker"].includes(part(id)?.kind ?? ""),
    ),
    pipes: network.map.runs.flatMap<Choice>((r) =>
      r.service === "waste"
        ? []
        : (["from", "to"] as const).map((end) => {
            const there = part(r[end].part);
            return [
              runEndValue(r.id, end),
              `${r.service} pipe at ${there?.tag ?? there?.name ?? r[end].part}, port ${r[end].port}`,
            ];
          }),
    ),
    cells: network.cells
      .flatMap<Choice>((cell, i) =>
        cell.capacityM3 > 1e-5 ? [[cell.id, capital(cellName(network, i))]] : [],
      )
      .toSorted((a, b) => a[1].localeCompare(b[1])),
    undone: state.apart.map((e) => [
      runEndValue(e.run, e.end),
      `${e.run}, ${e.end === "from" ? "first" : "far"} end`,
    ]),
  };
};

/** One end of a pipe, as the value of a choice. */
const runEndValue = (run: string, end: "from" | "to"): string => JSON.stringify({ run, end });

const jobsFor = (network: Network, state: SimState): Job[] => {
  const c = choicesOf(network, state);
  const at = (label: string, choose: readonly Choice[], name = "at"): FieldSpec => ({
    name,
    label,
    choose,
  });
  const all: (Job & { readonly needs: readonly Choice[] })[] = [
    {
      id: "blow",
      label: "Blow with air",
      about:
        "Until nothing more is carried out. Never the compressor's full pressure; eyes guarded, nobody's hand before an open end.",
      needs: c.ways,
      fields: [
        at("Air goes in at", c.ways),
        { name: "regulatorPa", label: "Regulator", dimension: "pressure", standard: 275_790 },
        { name: "receiverM3", label: "Receiver", dimension: "volume", standard: 0.024 },
      ],
      make: (v) => ({ do: "blow", ...v }),
    },
    {
      id: "jug",
      label: "Put a pickup in a jug",
      about: "A way in without a jug hangs in the air.",
      needs: c.pickups,
      fields: [
        at("Which", c.pickups),
        { name: "strength", label: "Strength", dimension: "fraction", standard: 0.5 },
        {
          name: "volumeM3",
          label: "How much is in it (may be left empty)",
          dimension: "volume",
          standard: 0,
          optional: true,
        },
      ],
      make: (v) => ({ do: "jug", ...v }),
    },
    {
      id: "jug-out",
      label: "Take a pickup out of its jug",
      about: "It hangs in the air, open.",
      needs: c.pickups,
      fields: [at("Which", c.pickups)],
      make: (v) => ({ do: "jug", ...v }),
    },
    {
      id: "hose",
      label: "Hose on an inlet",
      about: "Supplies differ: 40 to 60 psi is what a unit wants, a site may give twice that.",
      needs: c.inlets,
      fields: [
        at("Which", c.inlets),
        { name: "pa", label: "Pressure", dimension: "pressure", standard: 276_000 },
      ],
      make: (v) => ({ do: "hose", ...v }),
    },
    {
      id: "hose-off",
      label: "Hose off",
      about: "The inlet stays open.",
      needs: c.inlets,
      fields: [at("Which", c.inlets)],
      make: (v) => ({ do: "hose", ...v, pa: 0 }),
    },
    {
      id: "heat",
      label: "Heater on or off",
      about: "0 W is off. Only ever full.",
      needs: c.heaters,
      fields: [
        at("Which", c.heaters, "heater"),
        { name: "watts", label: "Power", unit: "W", number: 1400 },
      ],
      make: (v) => ({ do: "heat", ...v }),
    },
    {
      id: "fill",
      label: "Fill a tank",
      about: "From above.",
      needs: c.tanks,
      fields: [
        at("Which", c.tanks, "tank"),
        { name: "volumeM3", label: "How much", dimension: "volume", standard: 0.02 },
        { name: "strength", label: "Strength", dimension: "fraction", standard: 0 },
      ],
      make: (v) => ({ do: "fill", ...v }),
    },
    {
      id: "pour",
      label: "Pour into a trap or bowl",
      about: "Slowly, so that it pushes out what it displaces.",
      needs: c.traps,
      fields: [
        at("Which", c.traps, "into"),
        { name: "volumeM3", label: "How much", dimension: "volume", standard: 0.0005 },
        { name: "strength", label: "Strength", dimension: "fraction", standard: 0.5 },
      ],
      make: (v) => ({ do: "pour", ...v }),
    },
    {
      id: "dose",
      label: "Dose free chlorine",
      about: "By weight; it mixes with all the vessel holds, and fades by half in a day.",
      needs: c.vessels,
      fields: [
        at("Which", c.vessels, "into"),
        { name: "chlorineMg", label: "Free chlorine", unit: "mg", number: 5000 },
      ],
      make: (v) => ({ do: "dose", ...v }),
    },
    {
      id: "hold",
      label: "Say what a part or pipe holds",
      about: "Whatever it held before: to begin from what is known of this unit.",
      needs: c.cells,
      fields: [
        at("Which", c.cells, "in"),
        { name: "share", label: "How full", dimension: "fraction", standard: 1 },
        { name: "strength", label: "Strength", dimension: "fraction", standard: 0 },
      ],
      make: (v) => ({ do: "hold", ...v }),
    },
    {
      id: "suck",
      label: "Suck a vessel out",
      about:
        "Through a dip or a joint; air must be able to follow, and what lies below the dip stays.",
      needs: c.vessels,
      fields: [at("Which", c.vessels, "from")],
      make: (v) => ({ do: "suck", ...v }),
    },
    {
      id: "cycle",
      label: "Run an appliance",
      about: "A fill by each of its valves, then its pump-out.",
      needs: c.machines,
      fields: [at("Which", c.machines, "appliance")],
      make: (v) => ({ do: "cycle", ...v }),
    },
    {
      id: "undo",
      label: "Undo a pipe",
      about: "Both sides stand open.",
      needs: c.pipes,
      fields: [at("Where", c.pipes)],
      make: (v) => ({ do: "undo", ...(JSON.parse(String(v["at"])) as object) }),
    },
    {
      id: "remake",
      label: "Make a pipe again",
      about: "Hand-tight on a seen washer.",
      needs: c.undone,
      fields: [at("Where", c.undone)],
      make: (v) => ({ do: "remake", ...(JSON.parse(String(v["at"])) as object) }),
    },
  ];
  return all.filter((job) => job.needs.length > 0);
};

export const ActionSheet = ({
  network,
  state,
  first,
  onDo,
  onClose,
}: {
  network: Network;
  state: SimState;
  /** The job that is chosen at first. */
  first: string;
  onDo: (action: SimAction) => void;
  onClose: () => void;
}) => {
  const { q, text, system } = useUnits();
  const jobs = jobsFor(network, state);
  const [jobId, setJobId] = useState(
    jobs.some((j) => j.id === first) ? first : (jobs[0]?.id ?? ""),
  );
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string>();
  const job = jobs.find((j) => j.id === jobId);
  const key = (f: FieldSpec): string => `${jobId}.${f.name}`;
  const standing = (f: FieldSpec): string =>
    typed[key(f)] ??
    ("choose" in f
      ? (f.choose[0]?.[0] ?? "")
      : "number" in f
        ? String(f.number)
        : f.optional
          ? ""
          : q(f.standard, f.dimension));

  const submit = (): void => {
    if (!job) return;
    const values: Record<string, string | number | undefined> = {};
    for (const f of job.fields) {
      const text = standing(f).trim();
      if ("choose" in f) values[f.name] = text;
      else if ("number" in f) {
        const number = Number(text.replace(",", "."));
        if (text === "" || !Number.isFinite(number))
          return setProblem(`${f.label}: a number in ${f.unit}`);
        values[f.name] = number;
      } else if (text !== "" || !f.optional) {
        const read = parseQuantity(text, f.dimension, system);
        if (!read.ok) return setProblem(`${f.label}: ${read.problem}`);
        values[f.name] = read.quantity.si;
      }
    }
    const made = simAction.safeParse(job.make(values));
    if (!made.success)
      return setProblem(made.error.issues[0]?.message ?? "That cannot be done so.");
    if (made.data.do === "blow") {
      const air = airVerdict(network, state, made.data);
      if (air.verdict === "refused") return setProblem(`${text(air.why)}.`);
      const warning =
        air.verdict === "high"
          ? `${text(air.why)}. Press again to blow with it all the same.`
          : undefined;
      if (warning !== undefined && warning !== problem) return setProblem(warning);
    }
    onDo(made.data);
    onClose();
  };

  return (
    <Sheet open onClose={onClose} title="Do something">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <label className="block text-[15px] font-semibold">
          What is done
          <select
            className="field mt-1 w-full"
            value={jobId}
            onChange={(e) => {
              setJobId(e.target.value);
              setProblem(undefined);
            }}
          >
            {jobs.map((j) => (
              <option key={j.id} value={j.id}>
                {j.label}
              </option>
            ))}
          </select>
        </label>
        <p className="mt-1 text-[14px] text-muted">{job?.about}</p>
        {job?.fields.map((f) => (
          <label key={key(f)} className="mt-3 block text-[15px] font-semibold">
            {f.label}
            {"choose" in f ? (
              <select
                className="field mt-1 w-full"
                value={standing(f)}
                onChange={(e) => setTyped((now) => ({ ...now, [key(f)]: e.target.value }))}
              >
                {f.choose.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              <span className="mt-1 flex items-center gap-2">
                <input
                  className="field w-full"
                  value={standing(f)}
                  onChange={(e) => setTyped((now) => ({ ...now, [key(f)]: e.target.value }))}
                />
                {"number" in f && (
                  <span className="text-[14px] font-normal text-muted">{f.unit}</span>
                )}
              </span>
            )}
          </label>
        ))}
        {problem && (
          <p role="alert" className="mt-2 text-rust">
            {problem}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button type="submit" look="act" big disabled={!job}>
            Do it
          </Button>
          <Button big onClick={onClose}>
            Back
          </Button>
        </div>
      </form>
    </Sheet>
  );
};
