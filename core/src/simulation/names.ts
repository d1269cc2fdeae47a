import {
  type Control,
  type LiveOpening,
  liveOpenings,
  type Network,
  type Part,
  positionLabel,
  type Situation,
} from "../watermap/index.ts";

/** Finding what an action names: by id, by tag, or where a part has but one of a thing, by the part. */

export type Named<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: string };

const bad = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

const isPart = (part: Part, name: string): boolean =>
  part.id.toLowerCase() === name || part.tag?.toLowerCase() === name;

/** A control by its key ("galley:cold"), or by its part's id or tag where the part has but one. */
export const controlNamed = (network: Network, name: string): Named<Control> => {
  const wanted = name.toLowerCase();
  const exact = network.controls.find((c) => c.key.toLowerCase() === wanted);
  if (exact) return { ok: true, value: exact };
  const [owner = "", side] = wanted.split(":");
  const of = network.controls.filter(
    (c) => isPart(c.part, owner) && (side === undefined || c.spec.name.toLowerCase() === side),
  );
  const [only, ...more] = of;
  if (!only) return bad(`there is no control "${name}"`);
  return more.length > 0
    ? bad(`"${name}" has several controls: ${of.map((c) => c.key).join(", ")}`)
    : { ok: true, value: only };
};

/** A position of a control by its name, by what is written on it, or by what a selector joins there. */
export const positionNamed = (control: Control, name: string): Named<string> => {
  const wanted = name.toLowerCase();
  const found = control.spec.positions.find(
    (p) =>
      p.name === name ||
      p.label.toLowerCase() === wanted ||
      positionLabel(control, p.name).toLowerCase() === wanted,
  );
  return found
    ? { ok: true, value: found.name }
    : bad(
        `${control.key} has no position "${name}" (${control.spec.positions.map((p) => p.name).join(", ")})`,
      );
};

export const partNamed = (network: Network, name: string): Named<Part> => {
  const part = network.map.parts.find((p) => isPart(p, name.toLowerCase()));
  return part ? { ok: true, value: part } : bad(`there is no part "${name}"`);
};

/** A cell by its id; of a part, the largest that holds something. */
export const cellNamed = (network: Network, name: string): Named<number> => {
  const exact = network.cellIndex.get(name);
  if (exact !== undefined) return { ok: true, value: exact };
  const part = partNamed(network, name);
  if (!part.ok) return bad(`there is no part or pipe "${name}"`);
  const [largest] = network.cells
    .map((c, i) => ({ c, i }))
    .filter(({ c }) => c.ownerId === part.value.id)
    .toSorted((a, b) => b.c.capacityM3 - a.c.capacityM3);
  return largest ? { ok: true, value: largest.i } : bad(`${part.value.name} holds nothing`);
};

/** An opening by its id, or the only one of a part that is neither vent nor falls; open or not. */
export const openingNamed = (
  network: Network,
  situation: Situation,
  name: string,
): Named<LiveOpening> => {
  const live = liveOpenings(situation);
  const exact = live.find((o) => o.id === name);
  if (exact) return { ok: true, value: exact };
  const found = network.openings.filter(
    (o) => o.id === name || (isPart(o.part, name.toLowerCase()) && o.use !== "vent"),
  );
  const [only] = found;
  if (!only) return bad(`there is no opening "${name}"`);
  if (found.length > 1)
    return bad(`"${name}" has several openings: ${found.map((o) => o.id).join(", ")}`);
  return {
    ok: true,
    value: {
      id: only.id,
      cell: only.cell,
      heightM: only.heightM,
      use: only.use,
      ...(only.fallsTo === undefined ? {} : { fallsTo: only.fallsTo }),
      opening: only,
    },
  };
};
