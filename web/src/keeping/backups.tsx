import type { Keeping, Restored } from "@uppershed/contract";
import { useState } from "react";
import { useForm } from "react-hook-form";
import {
  problemText,
  useBackUpNowMutation,
  useKeepingQuery,
  useRestoreBackupMutation,
} from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Field, PLAIN_LINK } from "../ui/field.tsx";
import { SheetForm } from "../ui/sheet-form.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { dayOf, timeOf } from "../ui/words.ts";

const MB = 1e6;

const WORD = "bring back";

/** A backup in the place of what is there: asked twice, and said what becomes of what is there. */
const BringBack = ({
  backup,
  onClose,
}: {
  backup: Keeping["backups"][number];
  onClose: () => void;
}) => {
  const [restore] = useRestoreBackupMutation();
  const form = useForm({ defaultValues: { word: "" } });
  const [restored, setRestored] = useState<Restored>();
  if (restored)
    return (
      <Sheet open onClose={() => window.location.assign("/")} title="Brought back">
        <p>
          What is here now is of {dayOf(restored.at)} {timeOf(restored.at)}. What was here stays on
          the server as the database {restored.before}.
        </p>
        <Button look="act" big className="mt-4" onClick={() => window.location.assign("/")}>
          Go on
        </Button>
      </Sheet>
    );
  return (
    <Sheet open onClose={onClose} title={`Bring back ${dayOf(backup.at)} ${timeOf(backup.at)}?`}>
      <SheetForm
        form={form}
        act="Bring it back"
        look="rust"
        stays
        onClose={onClose}
        onAct={async () => {
          const reply = await restore(backup.name);
          if (reply.error) return problemText(reply.error);
          setRestored(reply.data);
          return undefined;
        }}
      >
        <p>
          Everything is then as it was at that moment, for everybody: {backup.units} units,{" "}
          {backup.runs} runs, {backup.people} people. What was done since is not in it. What is here
          now is backed up first, and stays on the server beside it.
        </p>
        <Field
          label={`Type "${WORD}"`}
          className="mt-3 max-w-xs"
          autoComplete="off"
          problem={form.formState.errors.word?.message}
          {...form.register("word", {
            validate: (t) => t.trim().toLowerCase() === WORD || `Type "${WORD}".`,
          })}
        />
      </SheetForm>
    </Sheet>
  );
};

/** Which backups there are, and one more at a press. */
export const Backups = () => {
  const { data } = useKeepingQuery();
  const [backUp, backing] = useBackUpNowMutation();
  const [asked, setAsked] = useState<Keeping["backups"][number]>();
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
            className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5 text-[15px]"
          >
            <b>
              {dayOf(b.at)} {timeOf(b.at)}
            </b>
            <span className="text-muted">
              {b.workshops > 1 && `${b.workshops} workshops, `}
              {b.units} {b.units === 1 ? "unit" : "units"}, {b.runs} {b.runs === 1 ? "run" : "runs"}
              , {b.people} people, {(b.bytes / MB).toFixed(1)} MB
              {b.beforeUpgrade && ", made before an upgrade"}
            </span>
            <Button className="ml-auto" onClick={() => setAsked(b)}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
      {data.folder !== null && data.backups.length === 0 && (
        <p className="py-2 text-muted">None yet: the first comes a minute after the start.</p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <p className="min-w-0 flex-1 basis-72 text-[14px] text-muted">
          Everything that the workshop owns, in formats that other programs read: JSON, tables as
          CSV, reports as PDF, pictures; with a list of what is in it.
        </p>
        <a href="/api/keeping/archive.zip" download className={PLAIN_LINK}>
          Take everything out
        </a>
      </div>
      {asked && <BringBack backup={asked} onClose={() => setAsked(undefined)} />}
    </section>
  );
};
