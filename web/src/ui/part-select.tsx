import type { ComponentProps } from "react";
import type { Part } from "@uppershed/core/watermap";

/** One of a map's parts, or no one part; joints are nobody's fault. */
export const PartSelect = ({
  parts,
  ...rest
}: ComponentProps<"select"> & { parts: readonly Part[] }) => (
  <label className="mt-2 block font-semibold">
    Part
    <select className="field mt-1 w-full font-normal" {...rest}>
      <option value="">no one part</option>
      {parts
        .filter((p) => p.kind !== "tee")
        .toSorted((a, b) => (a.name < b.name ? -1 : 1))
        .map((p) => (
          <option key={p.id} value={p.id}>
            {p.tag ? `${p.tag} ` : ""}
            {p.name}
          </option>
        ))}
    </select>
  </label>
);
