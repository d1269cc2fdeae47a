import { useMeQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { dayOf, timeOf } from "../ui/words.ts";
import { dropErrand, tryAgain, useErrands } from "./errands.ts";

/** What this device keeps and the server has not: what waits for a signal, for somebody to sign in, or was not taken. */
export const WaitingSheet = ({ onClose }: { onClose: () => void }) => {
  const { data: me } = useMeQuery();
  const errands = useErrands();
  return (
    <Sheet open onClose={onClose} title="Kept on this device">
      {errands.length === 0 && <p>Everything is on the server.</p>}
      <ul>
        {errands.map((e) => (
          <li key={e.id} className="border-t border-line py-2 text-[15px]">
            {e.what}{" "}
            <span className="text-muted">
              {dayOf(e.at)} {timeOf(e.at)}, {e.personName}
            </span>
            {e.refused ? (
              <div className="mt-1 border-l-4 border-rust bg-rust-soft p-2">
                <p>The server did not take it: {e.refused}</p>
                <div className="mt-1 flex gap-2">
                  <Button onClick={() => void tryAgain(e)}>Send again</Button>
                  <Button look="quiet" onClick={() => void dropErrand(e.id)}>
                    I have read it, drop it
                  </Button>
                </div>
              </div>
            ) : (
              e.personId !== me?.person.id && <span className="block text-muted">goes out when {e.personName} signs in on this device</span>
            )}
          </li>
        ))}
      </ul>
    </Sheet>
  );
};
