import type { PartSearch, RegisteredPart } from "@uppershed/contract";
import { CONDITIONS } from "@uppershed/core/formats";
import { monthsBetween } from "@uppershed/core/quantity";
import { PART_KINDS } from "@uppershed/core/watermap";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { LifeSheet } from "../../mapping/life-sheet.tsx";
import { useTitle } from "../../shell/slots.tsx";
import { usePartsQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

const AGES = [
  ["", "any age"],
  ["12", "over one year"],
  ["24", "over two years"],
  ["60", "over five years"],
  ["120", "over ten years"],
] as const;

const DUE = [
  ["", "whenever due"],
  ["0", "overdue"],
  ["3", "due in three months"],
  ["12", "due in a year"],
] as const;

const today = (): string => new Date().toISOString().slice(0, 10);
const monthsOn = (months: number): string => {
  const at = new Date();
  at.setUTCMonth(at.getUTCMonth() + months);
  return at.toISOString().slice(0, 10);
};

const yearsOf = (months: number): string =>
  months < 24 ? `${months} months` : `${Math.floor(months / 12)} years`;

const Age = ({ part }: { part: RegisteredPart }) => {
  const { fittedOn } = part.life;
  if (!fittedOn) return <span className="text-muted">not known</span>;
  return (
    <>
      {yearsOf(Math.max(0, monthsBetween(fittedOn, today())))}
      <span className="block text-[13px] text-muted">since {dayOf(fittedOn)}</span>
    </>
  );
};

const Due = ({ part }: { part: RegisteredPart }) => {
  if (!part.dueOn) return <span className="text-muted">cannot tell</span>;
  const over = part.dueOn <= today();
  return (
    <span
      className={over ? "font-semibold text-rust" : ""}
      title={`fitted on ${part.life.fittedOn}, expected life ${part.life.expectedLifeMonths} months`}
    >
      {over ? "over since " : ""}
      {dayOf(part.dueOn)}
    </span>
  );
};

const PartRow = ({ part, onOpen }: { part: RegisteredPart; onOpen: () => void }) => (
  <tr className="border-t border-line align-top hover:bg-green-soft">
    <td className="py-1 pr-4">
      <button
        type="button"
        className="min-h-11 text-left font-semibold text-green hover:underline"
        onClick={onOpen}
      >
        {part.tag && `${part.tag}, `}
        {part.name}
        {part.item && `, ${part.item}`}
        <span className="block text-[13px] font-normal text-muted">
          {PART_KINDS.get(part.kind)?.label ?? part.kind}
          {part.place && ` · ${part.place}`}
          {!part.onMap && " · no longer on the map"}
        </span>
      </button>
    </td>
    <td className="pr-4 pt-2">
      <Link to={`/units/${part.unitId}`} className="text-green underline">
        {part.unitName}
      </Link>
    </td>
    <td className="pr-4 pt-2">
      {part.life.size}
      <span className="block text-[13px] text-muted">{part.life.serial}</span>
    </td>
    <td className="pr-4 pt-2">
      <Age part={part} />
    </td>
    <td className="pr-4 pt-2">
      <Due part={part} />
    </td>
    <td className="pr-4 pt-2">{part.life.condition}</td>
    <td className="pr-4 pt-2">{part.life.lookedAt ? dayOf(part.life.lookedAt) : ""}</td>
  </tr>
);

const Select = ({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) => (
  <select
    aria-label={label}
    className="field"
    value={value}
    onChange={(e) => onChange(e.target.value)}
  >
    {options.map(([v, l]) => (
      <option key={v} value={v}>
        {l}
      </option>
    ))}
  </select>
);

/** Every part of every unit: one dense line each, found by words, kind, age, condition and due date. */
export const Parts = () => {
  useTitle("Parts");
  const [text, setText] = useState("");
  const [kind, setKind] = useState("");
  const [age, setAge] = useState("");
  const [due, setDue] = useState("");
  const [condition, setCondition] = useState("");
  const [gone, setGone] = useState(false);
  const [open, setOpen] = useState<RegisteredPart>();
  const search: PartSearch = useDeferredValue({
    ...(text.trim() ? { text: text.trim() } : {}),
    ...(kind ? { kind } : {}),
    ...(age ? { fittedMonthsAgo: Number(age) } : {}),
    ...(due ? { dueBy: monthsOn(Number(due)) } : {}),
    ...(condition ? { condition: condition as (typeof CONDITIONS)[number] } : {}),
    ...(gone ? { gone: "yes" as const } : {}),
  });
  const { data, error } = usePartsQuery(search);
  return (
    <div className="mx-auto max-w-7xl p-5">
      <div className="flex flex-wrap items-end gap-3">
        <h1 className="mr-auto text-2xl font-bold">Parts</h1>
        <label className="text-[14px]">
          <span className="mr-2 text-muted">Find</span>
          <input
            className="field w-72"
            maxLength={100}
            placeholder="steel heater anode"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <Select
          label="Kind"
          value={kind}
          options={[
            ["", "every kind"],
            ...[...PART_KINDS.values()].map((k) => [k.kind, k.label] as const),
          ]}
          onChange={setKind}
        />
        <Select label="Age" value={age} options={AGES} onChange={setAge} />
        <Select label="Due" value={due} options={DUE} onChange={setDue} />
        <Select
          label="Condition"
          value={condition}
          options={[["", "any condition"], ...CONDITIONS.map((c) => [c, c] as const)]}
          onChange={setCondition}
        />
        <label className="flex min-h-11 items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="size-5"
            checked={gone}
            onChange={(e) => setGone(e.target.checked)}
          />
          taken out too
        </label>
      </div>
      {!data && <Waiting error={error} />}
      {data && (
        <>
          <p role="status" className="mt-3 text-[14px] text-muted">
            {data.parts.length} {data.parts.length === 1 ? "part" : "parts"}
            {data.more && ", and more: narrow the search"}
          </p>
          <div className="overflow-x-auto">
            <table className="mt-1 w-full border-collapse text-left text-[14px]">
              <thead className="text-[13px] text-muted">
                <tr>
                  {[
                    "Part",
                    "Unit",
                    "Size, serial",
                    "Fitted",
                    "Life over",
                    "Condition",
                    "Looked at",
                  ].map((head) => (
                    <th key={head} className="py-2 pr-4 font-semibold">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {data.parts.map((part) => (
                  <PartRow
                    key={`${part.unitId} ${part.partId} ${part.item}`}
                    part={part}
                    onOpen={() => setOpen(part)}
                  />
                ))}
              </tbody>
            </table>
          </div>
          {data.parts.length === 0 && (
            <p className="mt-4 text-muted">No part fits. Fewer words find more.</p>
          )}
        </>
      )}
      {open && <LifeSheet part={open} onClose={() => setOpen(undefined)} />}
    </div>
  );
};
