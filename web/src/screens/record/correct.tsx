import { zodResolver } from "@hookform/resolvers/zod";
import type { AskedBody, RunReading } from "@uppershed/core/procedure";
import { PenLine } from "lucide-react";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { readValue, unitBeside } from "../../run/read-value.ts";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { useUnits } from "../../ui/units.ts";

/** Corrects a reading that was written down wrong: the old value stays, with the reason. */
export const CorrectReading = ({
  reading,
  add,
}: {
  reading: RunReading;
  add: (body: AskedBody) => Promise<string | undefined>;
}) => {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        aria-label={`Correct ${reading.label.toLowerCase()}, ${reading.typed}`}
        title="Correct it"
        className="no-print -my-1 flex size-8 shrink-0 items-center justify-center rounded text-green hover:bg-green-soft"
      >
        <PenLine aria-hidden size={17} />
      </button>
      <Sheet open={open} onClose={() => setOpen(false)} title="Correct a reading">
        {open && <CorrectForm reading={reading} add={add} onClose={() => setOpen(false)} />}
      </Sheet>
    </>
  );
};

const formSchema = z.object({
  words: z.string(),
  reason: z.string().trim().min(1, "Say why: the old value stays on the sheet beside the new one."),
});

const CorrectForm = ({
  reading,
  add,
  onClose,
}: {
  reading: RunReading;
  add: (body: AskedBody) => Promise<string | undefined>;
  onClose: () => void;
}) => {
  const { system } = useUnits();
  const form = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: { words: "", reason: "" },
  });
  const { errors } = form.formState;
  const correct = async ({ words, reason }: z.output<typeof formSchema>) => {
    const read = readValue(reading.kind, words, system);
    if (!read.ok) return read.problem;
    return add({
      type: "corrected",
      event: reading.event,
      reason,
      si: read.si,
      typed: read.typed,
    });
  };
  return (
    <SheetForm form={form} act="Correct it" onAct={correct} onClose={onClose}>
      <p className="text-muted">
        {reading.label}, written down as <b>{reading.typed}</b> by {reading.by.name}.
      </p>
      <Field
        label={`What it should be (${unitBeside(reading.kind, system)})`}
        className="mt-3"
        inputMode="decimal"
        maxLength={60}
        {...form.register("words")}
      />
      <Field
        label="Why?"
        className="mt-3"
        maxLength={2000}
        problem={errors.reason?.message}
        {...form.register("reason")}
      />
    </SheetForm>
  );
};
