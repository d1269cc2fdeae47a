import type { FromHistory } from "@uppershed/core/inspection";
import type { Ask, RunReading } from "@uppershed/core/procedure";
import { useForm, useWatch } from "react-hook-form";
import { HistoryLine } from "../../run/own-history.tsx";
import { dimensionOf, readValue, unitBeside } from "../../run/read-value.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";

/** A value to be read off something; a bare number takes the unit that stands beside the field. */
export const ReadingEntry = ({
  ask,
  reading,
  history,
  instruments = [],
  onRead,
}: {
  ask: Ask;
  reading: RunReading | undefined;
  /** What this unit has read there before, against what was read now. */
  history?: FromHistory | undefined;
  /** Names of what it can be read with, of the workshop's own. */
  instruments?: readonly string[];
  onRead: (
    si: number,
    typed: string,
    instrument: string | undefined,
  ) => Promise<string | undefined>;
}) => {
  const { system, q } = useUnits();
  const { control, register, handleSubmit, setError, reset, formState } = useForm({
    defaultValues: { words: "", instrument: "" },
  });
  const words = useWatch({ control, name: "words" }).trim();
  const problem = formState.errors.words?.message;
  const unit = unitBeside(ask.kind, system);
  const enter = handleSubmit(async (given) => {
    const read = readValue(ask.kind, given.words, system);
    const no = read.ok
      ? await onRead(read.si, read.typed, given.instrument || instruments[0])
      : read.problem;
    if (no) setError("words", { message: no });
    else reset({ words: "", instrument: given.instrument });
  });
  const id = `read-${ask.key}`;
  return (
    <form
      className="rounded border-[1.5px] border-line bg-raised p-3"
      onSubmit={(event) => void enter(event)}
    >
      <label htmlFor={id} className="block text-[15px] font-semibold">
        {ask.label}{" "}
        {ask.required ? (
          <span className="text-rust">(needed)</span>
        ) : (
          <span className="font-normal text-muted">(if read)</span>
        )}
      </label>
      <div className="mt-1 flex items-center gap-2">
        <input
          id={id}
          inputMode="decimal"
          maxLength={60}
          className="field min-h-[50px] w-28 text-[18px]"
          {...register("words")}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
        />
        <span className="text-muted">{unit}</span>
        <Button type="submit" disabled={words === ""}>
          Enter
        </Button>
        {reading && (
          <span className="text-[17px]">
            read <b>{reading.typed}</b>
          </span>
        )}
      </div>
      {instruments.length > 1 && (
        <label className="mt-1 block text-[14px]">
          <span className="mr-2 text-muted">With</span>
          <select className="field" {...register("instrument")}>
            {instruments.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {instruments.length === 1 && (
        <p className="mt-1 text-[13.5px] text-muted">With {instruments[0]}</p>
      )}
      <HistoryLine found={history} dimension={dimensionOf(ask.kind)} />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-1 text-rust">
          {problem}
        </p>
      )}
      {ask.expected !== undefined && (
        <p className="mt-1 text-[13.5px] text-muted">
          Worked out: {q(ask.expected, dimensionOf(ask.kind))}
          {ask.atMost !== undefined && `; at most ${q(ask.atMost, dimensionOf(ask.kind))}`}
        </p>
      )}
    </form>
  );
};
