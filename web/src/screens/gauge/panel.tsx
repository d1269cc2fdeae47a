import type { NewReading } from "@uppershed/contract";
import { type Dimension, parseQuantity } from "@uppershed/core/quantity";
import { type ReactNode, useState } from "react";
import { useUnits } from "../../ui/units.ts";

/** What the panels of gauge and meter are made of. */

export type Taken = Pick<
  NewReading,
  "spot" | "kind" | "label" | "dimension" | "value" | "typed" | "method" | "partId"
>;

export const Panel = ({
  title,
  lead,
  children,
}: {
  title: string;
  lead: string;
  children: ReactNode;
}) => (
  <section aria-label={title} className="border-t-2 border-green pt-3">
    <h2 className="text-[18px] font-bold">{title}</h2>
    <p className="mb-2 text-[14px] text-muted">{lead}</p>
    {children}
  </section>
);

export const Says = ({ bad, children }: { bad: boolean; children: ReactNode }) => (
  <p
    role="status"
    className={`my-2 border-l-4 p-2 text-[16px] ${bad ? "border-rust bg-rust-soft" : "border-green bg-green-soft"}`}
  >
    {children}
  </p>
);

/** A typed quantity, and what is wrong with it. */
export const useTyped = (dimension: Dimension) => {
  const { system } = useUnits();
  const [words, set] = useState("");
  const read = words.trim() === "" ? undefined : parseQuantity(words, dimension, system);
  return {
    words,
    set,
    si: read?.ok ? read.quantity.si : undefined,
    problem: read && !read.ok ? read.problem : undefined,
  };
};

export const Choose = ({
  label,
  parts,
  value,
  set,
}: {
  label: string;
  parts: readonly { id: string; name: string }[];
  value: string;
  set: (v: string) => void;
}) => (
  <label className="block text-[15px]">
    <span className="font-semibold">{label}</span>
    <select className="field mt-1 w-full" value={value} onChange={(e) => set(e.target.value)}>
      {parts.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  </label>
);
