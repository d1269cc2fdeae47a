import { useState } from "react";
import { useMeQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { useUnits } from "../ui/units.ts";
import { dayOf, timeOf } from "../ui/words.ts";
import { asNote, correctable } from "../device/mend-entry.ts";
import { dropEntry, type Held, putEntries, tryAgain, usePending } from "../device/outbox.ts";
import { NEARLY_FULL, useRoom } from "../device/room.ts";

const CorrectForm = ({ entry, onDone }: { entry: Held; onDone: () => void }) => {
  const { system } = useUnits();
  const of = correctable(entry);
  const [words, setWords] = useState(of?.words ?? "");
  const [problem, setProblem] = useState<string>();
  if (!of) return null;
  const send = async (): Promise<void> => {
    if (words.trim() === "") return setProblem("Write something.");
    const made = of.as(words, system);
    if ("problem" in made) return setProblem(made.problem);
    await putEntries([made.entry]);
    await dropEntry(entry.id);
    onDone();
  };
  const field = {
    className: "field mt-1 w-full font-normal",
    value: words,
    maxLength: of.most,
    onChange: (e: { target: { value: string } }) => setWords(e.target.value),
  };
  return (
    <div className="mt-2">
      <label className="block font-semibold">
        {of.label}
        {of.long ? <textarea {...field} rows={3} /> : <input {...field} inputMode="decimal" />}
      </label>
      {problem && (
        <p role="alert" className="text-rust">
          {problem}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <Button look="act" onClick={() => void send()}>
          Send it so
        </Button>
        <Button look="quiet" onClick={onDone}>
          Back
        </Button>
      </div>
    </div>
  );
};

/** What was not taken: why, and what is to become of it. */
const NotTaken = ({ entry }: { entry: Held }) => {
  const [correcting, setCorrecting] = useState(false);
  const note = asNote(entry);
  return (
    <div className="mt-1 border-l-4 border-rust bg-rust-soft p-2">
      <p>The server did not take it: {entry.refused?.why}</p>
      {correcting ? (
        <CorrectForm entry={entry} onDone={() => setCorrecting(false)} />
      ) : (
        <div className="mt-1 flex flex-wrap gap-2">
          {correctable(entry) && (
            <Button onClick={() => setCorrecting(true)}>Correct it and send</Button>
          )}
          <Button onClick={() => void tryAgain(entry.id)}>Send again</Button>
          {note && (
            <Button onClick={() => void putEntries([note]).then(() => dropEntry(entry.id))}>
              Keep it as a note
            </Button>
          )}
          <Button look="quiet" onClick={() => void dropEntry(entry.id)}>
            I have read it, drop it
          </Button>
        </div>
      )}
    </div>
  );
};

const MOST_SHOWN = 60;

/** What this device keeps and the server has not: what waits for a signal, for somebody to sign in, or was not taken. */
export const WaitingSheet = ({ onClose }: { onClose: () => void }) => {
  const { data: me } = useMeQuery();
  const pending = usePending();
  const room = useRoom();
  // What was made in another workshop is nobody's business here.
  const here = pending.filter((e) => e.workshopId === me?.workshop.id || e.workshopId === "");
  const elsewhere = pending.length - here.length;
  const shown = [...here.filter((e) => e.refused), ...here.filter((e) => !e.refused)].slice(
    0,
    MOST_SHOWN,
  );
  return (
    <Sheet open onClose={onClose} title="Kept on this device">
      {pending.length === 0 && <p>Everything is on the server.</p>}
      {here.some((e) => e.unsaved) && (
        <p role="alert" className="border-l-4 border-rust bg-rust-soft p-2">
          This device's store is full: {here.filter((e) => e.unsaved).length} of these stand in this
          page only. Keep it open until they are sent, and free some room.
        </p>
      )}
      <ul>
        {shown.map((e) => (
          <li key={e.id} className="border-t border-line py-2 text-[15px]">
            {e.what}{" "}
            <span className="text-muted">
              {dayOf(e.at)} {timeOf(e.at)}, {e.personName}
            </span>
            {e.refused && e.personId === me?.person.id && <NotTaken entry={e} />}
            {!e.refused && e.personId !== me?.person.id && (
              <span className="block text-muted">
                goes out when {e.personName} signs in on this device
              </span>
            )}
            {!e.refused && e.waitsFor && (
              <span className="block text-muted">rests on what {e.waitsFor} has not sent yet</span>
            )}
          </li>
        ))}
      </ul>
      {here.length > shown.length && (
        <p className="text-muted">and {here.length - shown.length} more</p>
      )}
      {elsewhere > 0 && (
        <p className="mt-2 text-muted">
          {elsewhere} {elsewhere === 1 ? "entry waits" : "entries wait"} here for somebody of
          another workshop.
        </p>
      )}
      {room && (
        <p className={`mt-3 text-[14px] ${room.used > NEARLY_FULL ? "text-rust" : "text-muted"}`}>
          This device's store is {Math.round(room.used * 100)} % full
          {room.lasting
            ? " and lasting."
            : "; the browser may clear it when the device runs short: send what waits soon."}
        </p>
      )}
    </Sheet>
  );
};
