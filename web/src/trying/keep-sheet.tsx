import type { TriedSequence } from "@uppershed/core/simulation";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { uuid } from "../device/uuid.ts";
import { problemText, useAddNoteMutation } from "../store/api.ts";
import { AreaField } from "../ui/field.tsx";
import { SheetForm } from "../ui/sheet-form.tsx";
import { Sheet } from "../ui/sheet.tsx";

/** Keeps what was tried as a note on the unit. */
export const KeepSheet = ({
  unitId,
  tried,
  onKept,
  onClose,
}: {
  unitId: string;
  tried: TriedSequence;
  onKept: () => void;
  onClose: () => void;
}) => {
  const form = useForm({ defaultValues: { text: "" } });
  const words = useWatch({ control: form.control, name: "text" }).trim();
  const [id] = useState(uuid);
  const [add] = useAddNoteMutation();
  const keep = async (): Promise<string | undefined> => {
    const reply = await add({ unitId, note: { id, text: words, tried } });
    return reply.error && problemText(reply.error);
  };
  return (
    <Sheet open onClose={onClose} title="Keep as a note on the unit">
      <SheetForm
        form={form}
        act="Keep the note"
        able={words !== ""}
        onAct={async () => {
          const no = await keep();
          if (!no) onKept();
          return no;
        }}
        onClose={onClose}
      >
        <AreaField
          label="What it shows"
          required
          rows={3}
          maxLength={2000}
          {...form.register("text")}
        />
        <p className="mt-2 text-[14px] text-muted">
          {tried.actions.length} {tried.actions.length === 1 ? "step is" : "steps are"} kept with
          it, on map revision {tried.mapRevision}, and can be tried again. What is signed of the
          unit is not touched.
        </p>
      </SheetForm>
    </Sheet>
  );
};
