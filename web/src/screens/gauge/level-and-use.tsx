import { believedLevel, LEVEL_METHODS, type LevelMethod } from "@uppershed/core/inspection";
import { kindOfPart, type Network } from "@uppershed/core/watermap";
import { useState } from "react";
import { useReadingsNow } from "../../sending/on-device.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { Choose, Panel, Says, type Taken } from "./panel.tsx";

const METHOD_WORDS: Record<LevelMethod, string> = {
  overflow: "it ran over",
  measured: "measured in or out",
  sight: "sight tube or by eye",
  torch: "torch through the wall",
  sender: "its sender and gauge",
};

const HOURS_12_MS = 12 * 3600 * 1000;

/** A tank's level, by method and trust. */
export const Level = ({
  network,
  unitId,
  keep,
}: {
  network: Network;
  unitId: string;
  keep: (t: Taken[]) => void;
}) => {
  const tanks = network.map.parts.filter(
    (p) => kindOfPart(p).role.vessel !== undefined && kindOfPart(p).role.vessel !== "heater",
  );
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
  const told = readings.filter(
    (r) => r.partId === part.id && r.kind === "level" && now - Date.parse(r.at) < HOURS_12_MS,
  );
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
          <select
            className="field mt-1 w-full"
            value={method}
            onChange={(e) => setMethod(e.target.value as LevelMethod)}
          >
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
              spot: method,
              kind: "level",
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
export const Use = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const parts = network.map.parts.filter((p) => /pump|filter/u.test(p.kind));
  const [partId, setPartId] = useState(parts[0]?.id ?? "");
  const [used, setUsed] = useState("");
  const [life, setLife] = useState("");
  const part = parts.find((p) => p.id === partId);
  if (!part) return null;
  const hours = /pump/u.test(part.kind);
  const [soFar, inAll] = [asNumber(used), asNumber(life)];
  const one = (kind: string, label: string, value: number): Taken =>
    hours
      ? {
          kind,
          label,
          dimension: "minutes",
          value: value * 60,
          typed: `${value} h`,
          method: "by its counter or log",
          partId: part.id,
        }
      : {
          kind,
          label,
          dimension: "volume",
          value: value / 1000,
          typed: `${value} L`,
          method: "by its counter or log",
          partId: part.id,
        };
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
            one("use", `${part.name}: use since it was fitted`, soFar),
            ...(inAll === undefined
              ? []
              : [one("use-life", `${part.name}: life by its maker`, inAll)]),
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
