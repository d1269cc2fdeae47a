import { buildNetwork } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useReadingsNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { uuid } from "../../device/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useKitQuery, useUnitQuery } from "../../store/api.ts";
import { readingText } from "../../ui/reading-text.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { Level, Use } from "./level-and-use.tsx";
import type { Taken } from "./panel.tsx";
import { Supply } from "./supply.tsx";
import { Plug, Polarity } from "./wires-and-plug.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

/** With which gauge and which meter it is read, of the workshop's own; kept with the readings. */
const useWith = () => {
  const { data: kit } = useKitQuery();
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>({});
  const namesOf = (what: string): string[] =>
    (kit?.kit ?? []).flatMap((k) =>
      !k.givenUp && k.facts.kind === "instrument" && k.facts.what === what ? [k.name] : [],
    );
  const asked = (["gauge", "meter"] as const)
    .map((what) => ({ what, names: namesOf(what) }))
    .filter(({ names }) => names.length > 0);
  return {
    instrumentFor: (method: string): string => chosen[method] ?? namesOf(method)[0] ?? "",
    fields: asked.map(({ what, names }) => (
      <label key={what} className="mr-4 inline-flex items-center gap-2 text-[15px]">
        {what === "gauge" ? "gauge" : "meter"}
        <select
          className="field"
          value={chosen[what] ?? names[0]}
          onChange={(e) => setChosen({ ...chosen, [what]: e.target.value })}
        >
          {names.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
    )),
  };
};

const useKeep = (
  unitId: string,
  visitId: string | null,
  instrumentFor: (method: string) => string,
) => {
  const sendLater = useSendLater();
  return (taken: readonly Taken[]): void => {
    const at = new Date().toISOString();
    const readings = taken.map((t) => ({
      ...t,
      id: uuid(),
      at,
      visitId,
      instrument: instrumentFor(t.method ?? ""),
    }));
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
  const taking = useWith();
  const keep = useKeep(unitId, visitId, taking.instrumentFor);
  const { system } = useUnits();
  useTitle(unit ? `Gauge and meter, ${unit.name}` : "Gauge and meter");
  if (!unit || !network) return <Waiting error={error ?? mapError} />;
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 pb-10">
      <InBar>
        <BarLink to={visitId ? `/visits/${visitId}` : `/units/${unitId}`}>
          <b>{unit.name}</b>
        </BarLink>
      </InBar>
      <h1 className="text-[24px] font-extrabold">Gauge and meter, {unit.name}</h1>
      {taking.fields.length > 0 && <p>Read with {taking.fields}</p>}
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
                (measured{r.method && `, ${r.method}`}
                {r.instrument && ` with ${r.instrument}`}; {dayOf(r.at)}, {r.by})
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
};
