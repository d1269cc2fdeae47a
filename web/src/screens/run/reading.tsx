import { type Ask, type Dimension, parseQuantity, type Reading, type UnitSystem } from "@uppershed/core";
import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";

const DIMENSION: Record<Ask["kind"], Dimension> = {
  strength: "fraction",
  recovered: "volume",
  temperature: "temperature",
  "antifreeze-in": "volume",
  "antifreeze-left": "volume",
};

const UNIT_HINT: Record<Dimension, Record<UnitSystem, string>> = {
  fraction: { us: "%", metric: "%", imperial: "%" },
  volume: { us: "gal", metric: "L", imperial: "gal" },
  temperature: { us: "°F", metric: "°C", imperial: "°C" },
  pressure: { us: "psi", metric: "bar", imperial: "psi" },
  length: { us: "ft", metric: "m", imperial: "ft" },
  time: { us: "min", metric: "min", imperial: "min" },
  mass: { us: "lb", metric: "kg", imperial: "lb" },
};

/** A value to be read off something; a bare number takes the unit that stands beside the field. */
export const ReadingEntry = ({
  ask,
  reading,
  onRead,
}: {
  ask: Ask;
  reading: Reading | undefined;
  onRead: (si: number, typed: string) => string | undefined;
}) => {
  const { system, q } = useUnits();
  const [words, setWords] = useState("");
  const [problem, setProblem] = useState<string>();
  const dimension = DIMENSION[ask.kind];
  const unit = UNIT_HINT[dimension][system];
  const enter = (): void => {
    const text = /^[\s\d.,+\-−/]+$/u.test(words) && words.trim() !== "" ? `${words.trim()} ${unit}` : words;
    const read = parseQuantity(text, dimension, system);
    if (!read.ok) return setProblem(read.problem);
    const no = onRead(read.quantity.si, text);
    setProblem(no);
    if (!no) setWords("");
  };
  const id = `read-${ask.key}`;
  return (
    <form
      className="rounded border-[1.5px] border-line bg-raised p-3"
      onSubmit={(event) => {
        event.preventDefault();
        enter();
      }}
    >
      <label htmlFor={id} className="block text-[15px] font-semibold">
        {ask.label} {ask.required ? <span className="text-rust">(needed)</span> : <span className="font-normal text-muted">(if read)</span>}
      </label>
      <div className="mt-1 flex items-center gap-2">
        <input
          id={id}
          inputMode="decimal"
          className="field min-h-[50px] w-28 text-[18px]"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
        />
        <span className="text-muted">{unit}</span>
        <Button type="submit" disabled={words.trim() === ""}>
          Enter
        </Button>
        {reading && (
          <span className="text-[17px]">
            read <b>{reading.typed}</b>
          </span>
        )}
      </div>
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-1 text-rust">
          {problem}
        </p>
      )}
      {ask.expected !== undefined && (
        <p className="mt-1 text-[13.5px] text-muted">
          Worked out: {q(ask.expected, dimension)}
          {ask.atMost !== undefined && `; at most ${q(ask.atMost, dimension)}`}
        </p>
      )}
    </form>
  );
};
