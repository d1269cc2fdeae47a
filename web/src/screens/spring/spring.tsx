import {
  SPRING_LIST,
  SPRING_MARK_LABELS,
  SPRING_MARKS,
  type SpringMark,
} from "@uppershed/core/inspection";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useSpringNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { uuid } from "../../device/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, dayOf, nowIso } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

/** A short look at the other systems in spring: pass, fail or not looked at; nothing of it enters the water record. */
export const SpringLookScreen = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: unit, error } = useUnitQuery(unitId);
  const newest = useSpringNow(unitId);
  const sendLater = useSendLater();
  const [notes, setNotes] = useState<Readonly<Record<string, string>>>({});
  useTitle(unit ? `Other systems of ${unit.name}` : "Other systems");
  if (!unit) return <Waiting error={error} />;
  const mark = (item: (typeof SPRING_LIST)[number], to: SpringMark): void => {
    const id = uuid();
    const at = nowIso();
    const note = (notes[item.id] ?? "").trim();
    void sendLater({
      id,
      unitId,
      kind: "spring",
      url: `/units/${unitId}/spring`,
      body: { id, item: item.id, mark: to, note, at, visitId },
      what: `${item.system}: ${SPRING_MARK_LABELS[to]}${note ? ` (${note})` : ""}`,
      at,
    });
    setNotes((before) => ({ ...before, [item.id]: "" }));
  };
  return (
    <div className="mx-auto max-w-4xl p-4 pb-10">
      <InBar>
        <BarLink to={visitId ? `/visits/${visitId}` : `/units/${unitId}`}>
          <b>{unit.name}</b>
        </BarLink>
      </InBar>
      <h1 className="text-[24px] font-extrabold">Other systems of {unit.name}</h1>
      <p className="mb-3 text-[15px] text-muted">
        A look, not a test: kept apart from the water system. Gas and mains work is for licensed
        trades.
      </p>
      <ul>
        {SPRING_LIST.map((item) => {
          const last = newest.get(item.id);
          return (
            <li key={item.id} className="border-t border-line py-2">
              <p className="text-[16px]">
                <b>{item.system}</b>: {item.look}
                {item.defer && (
                  <span className="block text-[14px] font-semibold text-rust">{item.defer}</span>
                )}
              </p>
              <div className="mt-1 flex flex-wrap items-center gap-2">
                <div role="group" aria-label={item.system} className="flex flex-wrap gap-2">
                  {SPRING_MARKS.map((m) => (
                    <button
                      key={m}
                      type="button"
                      aria-pressed={last?.mark === m}
                      className={`min-h-11 rounded border-[1.5px] px-4 text-[15px] ${last?.mark === m ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`}
                      onClick={() => mark(item, m)}
                    >
                      {capital(SPRING_MARK_LABELS[m])}
                    </button>
                  ))}
                </div>
                <input
                  className="field min-w-40 flex-1"
                  placeholder="Note"
                  aria-label={`Note on ${item.system}`}
                  maxLength={300}
                  value={notes[item.id] ?? ""}
                  onChange={(e) => setNotes((before) => ({ ...before, [item.id]: e.target.value }))}
                />
                <span className="w-52 text-[14px] text-muted">
                  {last
                    ? `${dayOf(last.at)}, ${last.by}${last.note ? `: ${last.note}` : ""}`
                    : "never looked at"}
                </span>
              </div>
            </li>
          );
        })}
      </ul>
    </div>
  );
};
