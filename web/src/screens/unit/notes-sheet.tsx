import { useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { useNotesNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { uuid } from "../../device/uuid.ts";
import { problemText, useNotesQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { AreaField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { dayOf, nowIso, timeOf } from "../../ui/words.ts";

/** The notes on a unit, newest first; what was tried on its map can be tried again. */
export const NotesSheet = ({ unitId, onClose }: { unitId: string; onClose: () => void }) => {
  const { error } = useNotesQuery(unitId);
  const notes = useNotesNow(unitId);
  const { control, register, handleSubmit, reset } = useForm({ defaultValues: { text: "" } });
  const words = useWatch({ control, name: "text" }).trim();
  const sendLater = useSendLater();
  const keep = (): void => {
    const id = uuid();
    void sendLater({
      id,
      unitId,
      kind: "note",
      url: `/units/${unitId}/notes`,
      body: { id, text: words },
      what: `note: ${words}`,
      at: nowIso(),
    });
    reset();
  };
  return (
    <Sheet open onClose={onClose} title="Notes">
      <form className="mb-3" onSubmit={(event) => void handleSubmit(keep)(event)}>
        <AreaField label="A new note" rows={2} maxLength={2000} {...register("text")} />
        <Button type="submit" className="mt-2" disabled={words === ""}>
          Keep it
        </Button>
      </form>
      {error && !notes && (
        <p role="alert" className="text-rust">
          {problemText(error)}
        </p>
      )}
      {notes?.length === 0 && <p className="text-muted">No notes on this unit yet.</p>}
      <ul aria-label="Notes on this unit">
        {notes?.map((note) => (
          <li key={note.id} className="border-t border-line py-2">
            <p className="whitespace-pre-wrap">{note.text}</p>
            <p className="text-[14px] text-muted">
              {note.by}, {dayOf(note.at)} {timeOf(note.at)}
              {note.triedUnread !== undefined &&
                ` · what was tried is kept with it and cannot be tried again. ${note.triedUnread}`}
              {note.waits && " · kept on this device, not sent yet"}
              {note.tried && (
                <>
                  {" · "}
                  <Link to={`/units/${unitId}/map?try=${note.id}`} className="text-green underline">
                    try its {note.tried.actions.length}{" "}
                    {note.tried.actions.length === 1 ? "step" : "steps"} again
                  </Link>
                </>
              )}
            </p>
          </li>
        ))}
      </ul>
    </Sheet>
  );
};
