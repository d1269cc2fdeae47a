import { buildNetwork } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useReadingsNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { uuid } from "../../device/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { readingText } from "../../ui/reading-text.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { Level, Use } from "./level-and-use.tsx";
import type { Taken } from "./panel.tsx";
import { Supply } from "./supply.tsx";
import { Plug, Polarity } from "./wires-and-plug.tsx";

const useKeep = (unitId: string, visitId: string | null) => {
  const sendLater = useSendLater();
  return (taken: readonly Taken[]): void => {
    const at = new Date().toISOString();
    const readings = taken.map((t) => ({ ...t, id: uuid(), at, visitId }));
    void sendLater({
      id: uuid(),
      unitId,
      kind: "reading",
      url: `/units/${unitId}/readings`,
      body: { readings },
      what: taken.map((t) => `${t.label} ${t.typed}`).join(", "),
      at,
    });
  };
};

const LAST = 12;

/** Figures taken with a gauge, a meter or a caliper: what they say is shown before they are kept. */
export const Gauge = () => {
  const { unitId = "" } = useParams();
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const { data: unit, error } = useUnitQuery(unitId);
  const { map, error: mapError } = useUnitMap(unitId);
  const network = useMemo(() => (map ? buildNetwork(map) : undefined), [map]);
  const readings = useReadingsNow(unitId);
  const keep = useKeep(unitId, visitId);
  const { system } = useUnits();
  useTitle(unit ? `Gauge and meter, ${unit.name}` : "Gauge and meter");
  if (!unit || !network) return <Waiting error={error ?? mapError} />;
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 pb-10">
      <InBar>
        <Link
          to={visitId ? `/visits/${visitId}` : `/units/${unitId}`}
          className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar"
        >
          <b>{unit.name}</b>
        </Link>
      </InBar>
      <h1 className="text-[24px] font-extrabold">Gauge and meter, {unit.name}</h1>
      <Supply network={network} keep={keep} />
      <Polarity network={network} keep={keep} />
      <Plug network={network} keep={keep} />
      <Use network={network} keep={keep} />
      <Level network={network} unitId={unitId} keep={keep} />
      <section aria-label="Taken lately">
        <h2 className="text-[16px] font-bold">Taken lately</h2>
        <ul className="text-[15px]">
          {readings.slice(0, LAST).map((r) => (
            <li key={r.id} className="border-t border-line py-1">
              {r.label}: <b>{readingText(r, system)}</b>{" "}
              <span className="text-muted">
                (measured{r.method && `, ${r.method}`}; {dayOf(r.at)}, {r.by})
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
};
