import type { AskedBody, RunReading } from "@uppershed/core/procedure";
import { PenLine } from "lucide-react";
import { useState } from "react";
import { readValue, unitBeside } from "../../run/read-value.ts";
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
  const [words, setWords] = useState("");
  const [reason, setReason] = useState("");
  const correct = async (): Promise<string | undefined> => {
    const read = readValue(reading.kind, words, system);
    if (!read.ok) return read.problem;
    if (reason.trim() === "")
      return "Say why: the old value stays on the record beside the new one.";
    return add({
      type: "corrected",
      event: reading.event,
      reason: reason.trim(),
      si: read.si,
      typed: read.typed,
    });
  };
  return (
    <SheetForm act="Correct it" onAct={correct} onClose={onClose}>
      <p className="text-muted">
        {reading.label}, written down as <b>{reading.typed}</b> by {reading.by.name}.
      </p>
      <label className="mt-3 block font-semibold">
        What it should be ({unitBeside(reading.kind, system)})
        <input
          className="field mt-1 w-full font-normal"
          inputMode="decimal"
          maxLength={60}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </label>
      <label className="mt-3 block font-semibold">
        Why?
        <input
          className="field mt-1 w-full font-normal"
          maxLength={2000}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </label>
    </SheetForm>
  );
};
