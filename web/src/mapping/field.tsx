import {
  type Dimension,
  formatParts,
  measuresOf,
  parseQuantity,
  type UnitBase,
  type UnitSystem,
} from "@uppershed/core/quantity";
import { useId, useState } from "react";
import { useUnits } from "../ui/units.ts";

/** A field that is read when it is left or Enter is pressed; what cannot be is said beside it, and nothing is lost. */
export const Field = (props: FieldProps) => (
  // Another value from outside begins the field anew.
  <FieldInput key={props.value} {...props} />
);

interface FieldProps {
  readonly label: string;
  readonly value: string;
  /** Takes the text; returns why it cannot be, or nothing. */
  readonly onRead: (text: string) => string | undefined;
  readonly list?: readonly string[];
  readonly hint?: string;
  /** The input's own id, where something else must find it. */
  readonly inputId?: string;
}

const FieldInput = ({ label, value, onRead, list, hint, inputId }: FieldProps) => {
  const own = useId();
  const id = inputId ?? own;
  const [text, setText] = useState(value);
  const [problem, setProblem] = useState<string>();
  const read = (): void => {
    if (text.trim() === value.trim()) {
      setProblem(undefined);
      return;
    }
    setProblem(onRead(text.trim()));
  };
  return (
    <div className="py-1">
      <div className="flex items-center gap-2">
        <label htmlFor={id} className="w-24 shrink-0 text-[14px] text-muted">
          {label}
        </label>
        <input
          id={id}
          aria-label={label}
          className="field min-w-0 flex-1"
          value={text}
          {...(list ? { list: `${id}-list` } : {})}
          aria-describedby={problem ? `${id}-no` : hint ? `${id}-hint` : undefined}
          aria-invalid={problem ? true : undefined}
          onChange={(e) => setText(e.target.value)}
          onBlur={read}
          onKeyDown={(e) => {
            if (e.key === "Enter") {
              e.preventDefault();
              read();
            }
            if (e.key === "Escape") {
              e.stopPropagation();
              setText(value);
              e.currentTarget.blur();
            }
          }}
        />
      </div>
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((option) => (
            <option key={option} value={option}>
              {option}
            </option>
          ))}
        </datalist>
      )}
      {problem && (
        <p id={`${id}-no`} role="alert" className="ml-26 pl-24 text-[13px] text-rust">
          {problem}
        </p>
      )}
      {!problem && hint && (
        <p id={`${id}-hint`} className="pl-26 text-[13px] text-muted">
          {hint}
        </p>
      )}
    </div>
  );
};

const UNIT_OF: Record<UnitBase, Partial<Record<Dimension, string>>> = {
  metric: { length: "m", volume: "L", pressure: "bar" },
  us: { length: "ft", volume: "gal", pressure: "psi" },
  imperial: { length: "ft", volume: "gal", pressure: "psi" },
};

/** Reads a length, volume or pressure; a bare number takes the unit of the workshop. */
const readQuantity = (
  text: string,
  dimension: Dimension,
  system: UnitSystem,
): { ok: true; si: number } | { ok: false; problem: string } => {
  const bare = /^[\s\d.,+\-−/]+$/u.test(text) && text.trim() !== "";
  const read = parseQuantity(
    bare ? `${text} ${UNIT_OF[measuresOf(system).base][dimension] ?? ""}` : text,
    dimension,
    system,
  );
  return read.ok ? { ok: true, si: read.quantity.si } : { ok: false, problem: read.problem };
};

/** A field for a quantity, shown and read in the workshop's units. */
export const QuantityField = ({
  label,
  si,
  dimension,
  onRead,
  assumed = false,
  inputId,
}: {
  label: string;
  si: number;
  dimension: Dimension;
  onRead: (si: number) => string | undefined;
  assumed?: boolean;
  inputId?: string;
}) => {
  const { system } = useUnits();
  const { value, unit } = formatParts(si, dimension, system);
  return (
    <Field
      label={label}
      value={`${value} ${unit}`}
      {...(inputId ? { inputId } : {})}
      {...(assumed ? { hint: "assumed: type what is there" } : {})}
      onRead={(text) => {
        const read = readQuantity(text, dimension, system);
        return read.ok ? onRead(read.si) : read.problem;
      }}
    />
  );
};

/** A choice from a short list. */
export const Choice = ({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: string;
  options: readonly { readonly value: string; readonly label: string }[];
  onChoose: (value: string) => void;
}) => {
  const id = useId();
  return (
    <div className="flex items-center gap-2 py-1">
      <label htmlFor={id} className="w-24 shrink-0 text-[14px] text-muted">
        {label}
      </label>
      <select
        id={id}
        className="field min-w-0 flex-1"
        value={value}
        onChange={(e) => onChoose(e.target.value)}
      >
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </div>
  );
};
