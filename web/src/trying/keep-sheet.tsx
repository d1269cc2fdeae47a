import type { TriedSequence } from "@uppershed/core/simulation";
import { useState } from "react";
import { uuid } from "../device/uuid.ts";
import { problemText, useAddNoteMutation } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
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
  const [text, setText] = useState("");
  const [id] = useState(uuid);
  const [add, adding] = useAddNoteMutation();
  const keep = async (): Promise<void> => {
    const reply = await add({ unitId, note: { id, text: text.trim(), tried } });
    if (!reply.error) onKept();
  };
  return (
    <Sheet open onClose={onClose} title="Keep as a note on the unit">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <label className="block text-[15px] font-semibold">
          What it shows
          <textarea
            required
            rows={3}
            maxLength={2000}
            className="field mt-1 w-full"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <p className="mt-2 text-[14px] text-muted">
          {tried.actions.length} {tried.actions.length === 1 ? "step is" : "steps are"} kept with
          it, on map revision {tried.mapRevision}, and can be tried again. The unit's record is not
          touched.
        </p>
        {adding.error && (
          <p role="alert" className="mt-2 text-rust">
            {problemText(adding.error)}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button type="submit" look="act" big disabled={adding.isLoading || text.trim() === ""}>
            Keep the note
          </Button>
          <Button big onClick={onClose}>
            Back
          </Button>
        </div>
      </form>
    </Sheet>
  );
};
