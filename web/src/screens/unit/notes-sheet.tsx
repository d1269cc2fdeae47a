import { useState } from "react";
import { Link } from "react-router";
import { problemText, useAddNoteMutation, useNotesQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { dayOf, timeOf } from "../../ui/words.ts";

/** The notes on a unit, newest first; what was tried on its map can be tried again. */
export const NotesSheet = ({ unitId, onClose }: { unitId: string; onClose: () => void }) => {
  const { data: notes, error } = useNotesQuery(unitId);
  const [text, setText] = useState("");
  const [add, adding] = useAddNoteMutation();
  const keep = async (): Promise<void> => {
    const reply = await add({ unitId, note: { text: text.trim() } });
    if (!reply.error) setText("");
  };
  const problem = error ?? adding.error;
  return (
    <Sheet open onClose={onClose} title="Notes">
      <form
        className="mb-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <label className="block text-[15px] font-semibold">
          A new note
          <textarea rows={2} maxLength={2000} className="field mt-1 w-full" value={text} onChange={(e) => setText(e.target.value)} />
        </label>
        <Button type="submit" className="mt-2" disabled={text.trim() === "" || adding.isLoading}>
          Keep it
        </Button>
      </form>
      {problem && (
        <p role="alert" className="text-rust">
          {problemText(problem)}
        </p>
      )}
      {notes?.length === 0 && <p className="text-muted">No notes on this unit yet.</p>}
      <ul aria-label="Notes on this unit">
        {notes?.map((note) => (
          <li key={note.id} className="border-t border-line py-2">
            <p className="whitespace-pre-wrap">{note.text}</p>
            <p className="text-[14px] text-muted">
              {note.by}, {dayOf(note.at)} {timeOf(note.at)}
              {note.tried && (
                <>
                  {" · "}
                  <Link to={`/units/${unitId}/map?try=${note.id}`} className="text-green underline">
                    try its {note.tried.actions.length} {note.tried.actions.length === 1 ? "step" : "steps"} again
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
