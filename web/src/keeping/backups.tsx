import { problemText, useBackUpNowMutation, useKeepingQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { dayOf, timeOf } from "../ui/words.ts";

const MB = 1e6;

/** Which backups there are, and one more at a press. */
export const Backups = () => {
  const { data } = useKeepingQuery();
  const [backUp, backing] = useBackUpNowMutation();
  if (!data) return null;
  const problem = backing.error ? problemText(backing.error) : data.problem;
  return (
    <section aria-label="Backups" className="mt-8">
      <div className="flex items-end justify-between border-b-2 border-green pb-1">
        <h2 className="text-[16px] font-bold">Backups</h2>
        {data.folder !== null && (
          <Button disabled={backing.isLoading} onClick={() => void backUp()}>
            {backing.isLoading ? "Making one …" : "Make one now"}
          </Button>
        )}
      </div>
      <p className="mt-2 text-[14px] text-muted">
        {data.folder === null
          ? "This server makes none of itself: it was started without a folder for them."
          : `One a day, the last fourteen, in ${data.folder} on the server; each was restored once and found the same. Keep copies elsewhere: "shed backup FILE --passphrase" writes one that only you can read, "shed restore FILE" brings it back.`}
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          The last could not be made: {problem}
        </p>
      )}
      <ul aria-label="Backups, the newest first">
        {data.backups.map((b) => (
          <li
            key={b.name}
            className="flex flex-wrap gap-x-3 border-b border-line py-1.5 text-[15px]"
          >
            <b>
              {dayOf(b.at)} {timeOf(b.at)}
            </b>
            <span className="text-muted">
              {b.units} {b.units === 1 ? "unit" : "units"}, {(b.bytes / MB).toFixed(1)} MB
            </span>
          </li>
        ))}
      </ul>
      {data.folder !== null && data.backups.length === 0 && (
        <p className="py-2 text-muted">None yet: the first comes a minute after the start.</p>
      )}
    </section>
  );
};
