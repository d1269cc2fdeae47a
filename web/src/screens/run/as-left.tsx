import { unprotectedAt } from "@uppershed/core/contents";
import {
  jobOf,
  doubtsSaid,
  isCountersignWanted,
  looseEnds,
  verdictNow,
} from "@uppershed/core/procedure";
import { inUseLineup, type Lineup } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { PictureButton } from "../../pictures/picture-button.tsx";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import type { LiveRun } from "../../run/use-run.ts";
import { usePicturesNow } from "../../sending/on-device.ts";
import { useMeQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Doubts } from "../../frost/doubts.tsx";
import { useUnits } from "../../ui/units.ts";
import { LineupForm } from "../../lineup/lineup-form.tsx";

const LISTED = 8;

/** How everything is left, what hangs on each loose end, and the signature that closes the job. */
export const AsLeft = ({ live }: { live: LiveRun }) => {
  const { state, add } = live;
  const { network } = state;
  const { holds, text } = useUnits();
  const { data: me } = useMeQuery();
  const [lineup, setLineup] = useState<Lineup>(state.physical.lineup);
  const [tags, setTags] = useState<Record<string, string>>({});
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string>();
  const pictures = usePicturesNow(live.run.unitId).filter((p) => p.aboutId === live.run.id);
  const ends = looseEnds(network, state.physical, lineup);
  const must = ends.filter((e) => e.mustTag);
  const close = async (): Promise<void> => {
    const tagged = must.flatMap((e) =>
      tags[e.id]?.trim() ? [{ id: e.id, tag: tags[e.id]?.trim() ?? "" }] : [],
    );
    const no =
      (await add({
        type: "as-left",
        lineup: changedFrom(state.physical.lineup, lineup),
        tagged,
        ...(note.trim() ? { note: note.trim() } : {}),
      })) ?? (await add({ type: "closed", name: me?.person.name ?? "" }));
    setProblem(no);
  };
  const isWinter = jobOf(state.setup) === "winterize";
  const waits = isCountersignWanted(state.setup, me?.person.role);
  const verdict = verdictNow(state);
  const open = unprotectedAt(verdict, state.setup.winterLowC);
  const doubts = useMemo(() => doubtsSaid(state), [state]);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 space-y-4 overflow-auto px-4 py-3">
        <div>
          <p className="text-[14px] text-muted">Every step is done or answered</p>
          <h1 className="text-[25px] font-bold leading-tight">How is it left?</h1>
          <p className="mt-1 text-[15px]">
            {isWinter ? (
              <>
                Holds to <b>{holds(verdict.holdsToC)}</b>
                {verdict.weakest &&
                  `, set by ${verdict.weakest.name}, ${text(verdict.weakest.evidence)}`}
                . Spring's list is made from what you write here.
              </>
            ) : (
              "It should stand as in use on the tank. What comes next begins from what you write here."
            )}
          </p>
        </div>
        {isWinter && <Doubts doubts={doubts} />}
        {isWinter && open.length > 0 && (
          <div className="border-l-[6px] border-rust bg-rust-soft p-3 text-[15px]">
            <b>Stays unprotected</b>
            <ul className="list-disc pl-5">
              {open.slice(0, LISTED).map((o) => (
                <li key={o.id}>
                  {o.name}: holds to {holds(o.holdsToC)}, {text(o.evidence)}
                </li>
              ))}
              {open.length > LISTED && <li>and {open.length - LISTED} more</li>}
            </ul>
          </div>
        )}
        <section aria-label="Loose ends">
          <h2 className="border-b-2 border-green text-[15px] font-bold">Loose ends</h2>
          {must.length === 0 && (
            <p className="py-2 text-[15px] text-muted">
              None: every end is made, every plug and cap is in.
            </p>
          )}
          {must.map((end) => (
            <label key={end.id} className="block border-b border-line py-2 text-[15px]">
              {end.text}
              <input
                className="field mt-1 w-full"
                maxLength={2000}
                placeholder="what hangs on it, or where it is"
                value={tags[end.id] ?? ""}
                onChange={(e) => setTags((now) => ({ ...now, [end.id]: e.target.value }))}
              />
            </label>
          ))}
        </section>
        <LineupForm
          network={network}
          lineup={lineup}
          against={{
            lineup: inUseLineup(network),
            word: isWinter ? "to turn in spring" : "not as in use",
          }}
          onChange={setLineup}
        />
        <label className="block text-[15px] font-semibold">
          {isWinter ? "Note for spring" : "Note for the next time"}
          <textarea
            className="field mt-1 min-h-16 w-full py-2 font-normal"
            maxLength={2000}
            value={note}
            onChange={(e) => setNote(e.target.value)}
          />
        </label>
        <div>
          <PictureButton
            unitId={live.run.unitId}
            about="run"
            aboutId={live.run.id}
            label="Picture, as left"
          />
          <PictureStrip pictures={pictures} />
        </div>
      </div>
      <div className="border-t border-line px-4 py-3">
        {problem && (
          <p role="alert" className="mb-2 border-l-4 border-rust bg-rust-soft px-3 py-1.5">
            {problem}
          </p>
        )}
        <div className="flex items-center gap-3">
          <p className="flex-1 text-[15px]">
            Signed by <b>{me?.person.name}</b>, {me?.person.role}.
            {waits && " It waits for a countersign."}
          </p>
          <Button look="act" big disabled={live.busy} onClick={() => void close()}>
            Left so, sign off
          </Button>
        </div>
      </div>
    </div>
  );
};

/** What the technician has corrected. */
const changedFrom = (before: Lineup, now: Lineup): Lineup =>
  Object.fromEntries(Object.entries(now).filter(([key, position]) => before[key] !== position));
