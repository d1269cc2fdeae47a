import { frostVerdict } from "@uppershed/core/contents";
import { type Astray, type RunEvent, type RunState, verdictNow } from "@uppershed/core/procedure";
import { useMemo } from "react";
import { runEntryInWords } from "../../device/words.ts";
import { useUnits } from "../../ui/units.ts";
import { WithoutEffect } from "../../ui/without-effect.tsx";
import { clock } from "../../ui/words.ts";

/** What stands beside a record: entries without effect, clocks that were wrong, and what the present engine would say. */

const isRead = (entry: Astray["entry"]): entry is RunEvent => "body" in entry;

/** A run's entries without effect, in words. */
export const AstrayEntries = ({ astray }: { astray: readonly Astray[] }) => (
  <WithoutEffect
    on="signed sheet"
    entries={astray.map(({ entry, problem }) => ({
      id: entry.id,
      what: isRead(entry) ? runEntryInWords(entry.body) : `an entry of the kind “${entry.type}”`,
      by: entry.by.name,
      at: entry.at,
      problem,
    }))}
  />
);

const MINUTE_S = 60;

/** Entries whose device had a clock that was far out: times of signing are the device's. */
export const ClocksAhead = ({ aheadS }: { aheadS: Readonly<Record<string, number>> }) => {
  const all = Object.values(aheadS);
  const most = all.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  if (most === 0) return null;
  return (
    <p className="mt-2 text-[14px] text-muted">
      The clock of the device was up to {clock(Math.abs(most) / MINUTE_S)} h{" "}
      {most > 0 ? "ahead" : "behind"} at {all.length} {all.length === 1 ? "entry" : "entries"}:
      times are as it gave them, the order is as they were made.
    </p>
  );
};

const SAME_K = 0.05;

/** What the present engine makes of the same contents, where that is something else. The record keeps what was said on its day. */
export const AgainToday = ({ state }: { state: RunState }) => {
  const { holds } = useUnits();
  const again = useMemo(
    () =>
      state.unit &&
      frostVerdict(
        state.network,
        state.physical.contents,
        state.setup.basis,
        state.physical.measured,
      ),
    [state],
  );
  if (!again) return null;
  const then = verdictNow(state);
  const same =
    again.weakest?.id === then.weakest?.id &&
    (again.holdsToC === then.holdsToC ||
      Math.abs((again.holdsToC ?? 99) - (then.holdsToC ?? 99)) < SAME_K);
  if (same) return null;
  return (
    <p className="text-[14.5px] text-muted">
      Worked out again today: holds to {holds(again.holdsToC)}
      {again.weakest && `, weakest part ${again.weakest.name}`}. The signed sheet says what was
      worked out and signed on its day.
    </p>
  );
};
