import type { NewRefitEntry } from "@uppershed/contract";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { dayOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

/** One line that is typed and kept. */
const Line = ({
  label,
  act,
  first = "",
  most,
  onKeep,
}: {
  label: string;
  act: string;
  first?: string;
  most: number;
  /** Says why it was not taken, or nothing. */
  onKeep: (text: string) => Promise<string | undefined>;
}) => {
  const [problem, setProblem] = useState<string>();
  const form = useForm({ defaultValues: { text: first } });
  const keep = form.handleSubmit(async ({ text }) => {
    const why = await onKeep(text.trim());
    setProblem(why);
    if (why === undefined && first === "") form.reset();
  });
  return (
    <form className="mt-2 flex flex-wrap items-end gap-2" onSubmit={(e) => void keep(e)}>
      <Field
        label={label}
        className="min-w-60 flex-1"
        maxLength={most}
        problem={problem ?? (form.formState.errors.text && "This is needed.")}
        {...form.register("text", { validate: (v) => v.trim() !== "" })}
      />
      <Button type="submit">{act}</Button>
    </form>
  );
};

/** What it is called, what was noticed, and that it is not done after all. */
export const AboutRefit = ({ unitId, refitId, here, mayWork }: OfRefit) => {
  const enter = useRefitEntry(unitId, refitId);
  const { name, notes, madeAt, madeBy, adopted } = here.onFile.refit;
  const keep = (body: NewRefitEntry["body"]): Promise<string | undefined> => enter(body);
  return (
    <details className="my-2 text-[15px]">
      <summary className="min-h-9 content-center text-[14px] text-muted">
        Made {dayOf(madeAt)} by {madeBy}
        {notes.length > 0 && `, ${notes.length} ${notes.length === 1 ? "note" : "notes"}`}
      </summary>
      <ul aria-label="Notes">
        {notes.map((n) => (
          <li key={`${n.at} ${n.text}`} className="border-t border-line py-1.5">
            <span className="text-muted">
              {dayOf(n.at)}, {n.by}:
            </span>{" "}
            {n.text}
          </li>
        ))}
      </ul>
      {mayWork && (
        <Line
          label="A note"
          act="Keep the note"
          most={1000}
          onKeep={(text) => keep({ type: "note", text })}
        />
      )}
      {mayWork && (
        <Line
          key={name}
          label="What it is called"
          act="Call it so"
          first={name}
          most={80}
          onKeep={(text) => keep({ type: "named", name: text })}
        />
      )}
      {mayWork && adopted.length === 0 && (
        <Line
          label="Why it is not done after all"
          act="Withdraw it"
          most={300}
          onKeep={(why) => keep({ type: "withdrawn", why })}
        />
      )}
    </details>
  );
};
