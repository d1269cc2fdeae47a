import type { NewReading } from "@uppershed/contract";
import {
  believedLevel,
  buildNetwork,
  type Dimension,
  kindOfPart,
  LEVEL_METHODS,
  type LevelMethod,
  type Network,
  paramsOf,
  parseQuantity,
  plugVerdict,
  polarityVerdict,
  supplyVerdict,
} from "@uppershed/core";
import { type ReactNode, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useReadingsNow } from "../../device/on-device.ts";
import { useSendLater } from "../../device/use-sender.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { uuid } from "../../run/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { readingText } from "../../ui/reading-text.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, dayOf } from "../../ui/words.ts";

type Taken = Pick<NewReading, "key" | "label" | "dimension" | "value" | "typed" | "method" | "partId">;

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

const Panel = ({ title, lead, children }: { title: string; lead: string; children: ReactNode }) => (
  <section aria-label={title} className="border-t-2 border-green pt-3">
    <h2 className="text-[18px] font-bold">{title}</h2>
    <p className="mb-2 text-[14px] text-muted">{lead}</p>
    {children}
  </section>
);

const Says = ({ bad, children }: { bad: boolean; children: ReactNode }) => (
  <p role="status" className={`my-2 border-l-4 p-2 text-[16px] ${bad ? "border-rust bg-rust-soft" : "border-green bg-green-soft"}`}>
    {children}
  </p>
);

/** A typed quantity, and what is wrong with it. */
const useTyped = (dimension: Dimension) => {
  const { system } = useUnits();
  const [words, set] = useState("");
  const read = words.trim() === "" ? undefined : parseQuantity(words, dimension, system);
  return { words, set, si: read?.ok ? read.quantity.si : undefined, problem: read && !read.ok ? read.problem : undefined };
};

const Supply = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const { text } = useUnits();
  const still = useTyped("pressure");
  const flowing = useTyped("pressure");
  const verdict = still.si === undefined ? undefined : supplyVerdict(network, still.si, flowing.si);
  return (
    <Panel title="Supply pressure" lead="Gauge at the inlet, every tap shut; then one tap open. Read both before the hose stays on.">
      <div className="grid max-w-md grid-cols-2 gap-3">
        <Field
          label="Still"
          placeholder="3.5 bar"
          value={still.words}
          problem={still.problem}
          onChange={(e) => still.set(e.target.value)}
        />
        <Field
          label="Flowing"
          placeholder="2.8 bar"
          value={flowing.words}
          problem={flowing.problem}
          onChange={(e) => flowing.set(e.target.value)}
        />
      </div>
      {verdict && (
        <Says bad={verdict.verdict === "unsafe" || verdict.verdict === "regulate" || verdict.restriction}>
          <b>{capital(verdict.verdict)}.</b> {text(verdict.why)}{" "}
          <span className="text-muted">
            Weakest behind the inlet: {verdict.weakest}
            {Number.isFinite(verdict.weakestPa) && `, ${text(`{pa:${Math.round(verdict.weakestPa)}}`)}`} (worked out from the map).
          </span>
        </Says>
      )}
      <Button
        className="mt-2"
        disabled={still.si === undefined}
        onClick={() => {
          if (still.si === undefined) return;
          const one = (key: string, label: string, value: number, typed: string): Taken => ({
            key,
            label,
            dimension: "pressure",
            value,
            typed,
            method: "gauge",
            partId: null,
          });
          keep([
            one("supply/still", "Supply pressure, still", still.si, still.words),
            ...(flowing.si === undefined ? [] : [one("supply/flowing", "Supply pressure, flowing", flowing.si, flowing.words)]),
          ]);
          still.set("");
          flowing.set("");
        }}
      >
        Keep the readings
      </Button>
    </Panel>
  );
};

const Choose = ({
  label,
  parts,
  value,
  set,
}: {
  label: string;
  parts: readonly { id: string; name: string }[];
  value: string;
  set: (v: string) => void;
}) => (
  <label className="block text-[15px]">
    <span className="font-semibold">{label}</span>
    <select className="field mt-1 w-full" value={value} onChange={(e) => set(e.target.value)}>
      {parts.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  </label>
);

const Polarity = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const pumps = network.map.parts.filter((p) => kindOfPart(p).inspect.some((i) => i.startsWith("Polarity")));
  const [partId, setPartId] = useState(pumps[0]?.id ?? "");
  const [words, setWords] = useState("");
  const volts = words.trim() === "" ? undefined : Number(words.replace(/v$/iu, "").replace("−", "-").replace(",", "."));
  const verdict = polarityVerdict(volts);
  const part = pumps.find((p) => p.id === partId);
  if (!part) return null;
  return (
    <Panel
      title="Wires of a pump"
      lead="Meter at its plug, pump switched on, red probe on the lead taken for positive. Colours prove nothing."
    >
      <div className="grid max-w-md grid-cols-2 gap-3">
        <Choose label="Pump" parts={pumps} value={partId} set={setPartId} />
        <Field label="The meter shows, V" placeholder="12.4 or −12.4" value={words} onChange={(e) => setWords(e.target.value)} />
      </div>
      <Says bad={verdict.verdict !== "right"}>
        <b>{capital(verdict.verdict)}.</b> {verdict.why}
      </Says>
      <Button
        disabled={volts === undefined || !Number.isFinite(volts)}
        onClick={() => {
          if (volts === undefined || !Number.isFinite(volts)) return;
          const label = `${part.name}: volts at its plug, running`;
          keep([
            { key: `${part.id}/volts`, label, dimension: "volts", value: volts, typed: `${words} V`, method: "meter", partId: part.id },
          ]);
          setWords("");
        }}
      >
        Keep the reading
      </Button>
    </Panel>
  );
};

const Plug = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const heaters = network.map.parts.filter((p) => p.kind === "storage-heater");
  const [partId, setPartId] = useState(heaters[0]?.id ?? "");
  const flats = useTyped("length");
  const part = heaters.find((p) => p.id === partId);
  if (!part) return null;
  const metal = String(paramsOf(part)["metal"] ?? "not looked at");
  const verdict = plugVerdict(flats.si, metal);
  return (
    <Panel
      title="Plug of a heater"
      lead="Heater off at its switch and breaker, water below 40 °C, pressure off, before a socket goes on. Measure across the flats of its hexagon."
    >
      <div className="grid max-w-md grid-cols-2 gap-3">
        <Choose label="Heater" parts={heaters} value={partId} set={setPartId} />
        <Field
          label="Across the flats"
          placeholder="27 mm"
          value={flats.words}
          problem={flats.problem}
          onChange={(e) => flats.set(e.target.value)}
        />
      </div>
      <Says bad={verdict.fits === false}>
        <b>{verdict.plug ? capital(verdict.plug) : "Cannot tell"}.</b> {verdict.why}{" "}
        <span className="text-muted">Vessel on the map: {metal}.</span>
      </Says>
      <Button
        disabled={flats.si === undefined}
        onClick={() => {
          if (flats.si === undefined) return;
          const label = `${part.name}: plug across its flats`;
          keep([
            { key: `${part.id}/plug`, label, dimension: "length", value: flats.si, typed: flats.words, method: "caliper", partId: part.id },
          ]);
          flats.set("");
        }}
      >
        Keep the reading
      </Button>
    </Panel>
  );
};

const METHOD_WORDS: Record<LevelMethod, string> = {
  overflow: "it ran over",
  measured: "measured in or out",
  sight: "sight tube or by eye",
  torch: "torch through the wall",
  sender: "its sender and gauge",
};

const HOURS_12_MS = 12 * 3600 * 1000;

const Level = ({ network, unitId, keep }: { network: Network; unitId: string; keep: (t: Taken[]) => void }) => {
  const tanks = network.map.parts.filter((p) => kindOfPart(p).role.vessel !== undefined && kindOfPart(p).role.vessel !== "heater");
  const readings = useReadingsNow(unitId);
  const [partId, setPartId] = useState(tanks[0]?.id ?? "");
  const [method, setMethod] = useState<LevelMethod>("sight");
  const [words, setWords] = useState("");
  const [now] = useState(() => Date.now());
  const part = tanks.find((p) => p.id === partId);
  if (!part) return null;
  const percent = words.trim() === "" ? undefined : Number(words.replace("%", ""));
  const sound = percent !== undefined && percent >= 0 && percent <= 100;
  const waste = kindOfPart(part).group === "waste";
  const told = readings.filter((r) => r.key.startsWith(`${part.id}/level/`) && now - Date.parse(r.at) < HOURS_12_MS);
  const believed = believedLevel([
    ...told.map((r) => ({ method: r.method as LevelMethod, level: r.value, waste })),
    ...(sound ? [{ method, level: percent / 100, waste }] : []),
  ]);
  return (
    <Panel
      title="Level of a tank"
      lead="Several ways may be told: the one that agrees with the tank is believed, a waste tank's sender last of all."
    >
      <div className="grid max-w-2xl grid-cols-3 gap-3">
        <Choose label="Tank" parts={tanks} value={partId} set={setPartId} />
        <label className="block text-[15px]">
          <span className="font-semibold">Told by</span>
          <select className="field mt-1 w-full" value={method} onChange={(e) => setMethod(e.target.value as LevelMethod)}>
            {LEVEL_METHODS.map((m) => (
              <option key={m} value={m}>
                {METHOD_WORDS[m]}
              </option>
            ))}
          </select>
        </label>
        <Field
          label="Level, %"
          inputMode="numeric"
          value={words}
          problem={percent !== undefined && !sound ? "0 to 100" : undefined}
          onChange={(e) => setWords(e.target.value)}
        />
      </div>
      {believed && (
        <Says bad={believed.doubt !== undefined}>
          <b>{Math.round(believed.level * 100)} %</b>, believed by {METHOD_WORDS[believed.method]}.{" "}
          {believed.doubt && <>But {believed.doubt}: look at the sender, or measure.</>}
        </Says>
      )}
      <Button
        className="mt-2"
        disabled={!sound}
        onClick={() => {
          if (!sound) return;
          const label = `${part.name}: level`;
          keep([
            {
              key: `${part.id}/level/${method}`,
              label,
              dimension: "fraction",
              value: percent / 100,
              typed: `${percent} %`,
              method,
              partId: part.id,
            },
          ]);
          setWords("");
        }}
      >
        Keep the reading
      </Button>
    </Panel>
  );
};

const asNumber = (words: string): number | undefined => {
  const value = words.trim() === "" ? undefined : Number(words.replace(",", "."));
  return value !== undefined && Number.isFinite(value) && value >= 0 ? value : undefined;
};

/** Hours of a pump, litres through a filter: what wears by use is due at the rate so far. */
const Use = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const parts = network.map.parts.filter((p) => /pump|filter/u.test(p.kind));
  const [partId, setPartId] = useState(parts[0]?.id ?? "");
  const [used, setUsed] = useState("");
  const [life, setLife] = useState("");
  const part = parts.find((p) => p.id === partId);
  if (!part) return null;
  const hours = /pump/u.test(part.kind);
  const [soFar, inAll] = [asNumber(used), asNumber(life)];
  const one = (key: string, label: string, value: number): Taken =>
    hours
      ? { key, label, dimension: "minutes", value: value * 60, typed: `${value} h`, method: "by its counter or log", partId: part.id }
      : { key, label, dimension: "volume", value: value / 1000, typed: `${value} L`, method: "by its counter or log", partId: part.id };
  return (
    <Panel
      title="Hours and litres"
      lead="Where a counter or a log tells it: what wears by use is due at the rate so far, with the day it was fitted from the register."
    >
      <div className="grid max-w-2xl grid-cols-3 gap-3">
        <Choose label="Part" parts={parts} value={partId} set={setPartId} />
        <Field
          label={hours ? "Run since it was fitted, h" : "Through it since it was fitted, L"}
          inputMode="decimal"
          value={used}
          onChange={(e) => setUsed(e.target.value)}
        />
        <Field
          label={hours ? "Life by its maker, h" : "Life by its maker, L"}
          inputMode="decimal"
          value={life}
          onChange={(e) => setLife(e.target.value)}
        />
      </div>
      <Button
        className="mt-2"
        disabled={soFar === undefined}
        onClick={() => {
          if (soFar === undefined) return;
          keep([
            one(`${part.id}/use`, `${part.name}: use since it was fitted`, soFar),
            ...(inAll === undefined ? [] : [one(`${part.id}/use-life`, `${part.name}: life by its maker`, inAll)]),
          ]);
          setUsed("");
          setLife("");
        }}
      >
        Keep the readings
      </Button>
    </Panel>
  );
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
