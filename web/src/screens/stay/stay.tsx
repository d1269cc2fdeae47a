import { circuitLoad, type Exposed, stayInFrost } from "@uppershed/core/inspection";
import { parseQuantity } from "@uppershed/core/quantity";
import { buildNetwork, type Network } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { useUnitMap } from "../../planning/use-map.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMeQuery, useUnitQuery } from "../../store/api.ts";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, clock } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

const SHOWN = 14;
const KEPT_SHOWN = 6;

const after = (seconds: number | null): string =>
  seconds === null ? "" : `${clock(seconds / 60)} h`;

/** A field of plain numbers: what was typed, and its figure where it is one. */
const useNumber = (standard: string) => {
  const [typed, setTyped] = useState(standard);
  const value = Number(typed.replace(",", "."));
  return { typed, setTyped, value, sound: typed.trim() !== "" && value >= 0 && value < 1e5 };
};

const Row = ({ of, lowC }: { of: Exposed; lowC: number }) => {
  const { q } = useUnits();
  return (
    <li className="flex items-baseline gap-3 border-t border-line py-1.5">
      <span className="min-w-0 flex-1">
        {capital(of.name)}
        <span className="ml-2 text-[13.5px] text-muted">
          {of.how === "heated"
            ? `heated, rated to ${q(of.ratedToC ?? 0, "temperature")}${of.kept ? "" : `, not enough at ${q(lowC, "temperature")}`}`
            : of.how}
        </span>
      </span>
      <span className="whitespace-nowrap tabular-nums">
        {of.kept ? "kept; without power " : ""}ice {after(of.firstIceS)}, through{" "}
        {after(of.throughS)}
      </span>
    </li>
  );
};

/** What lies outside, what gives out first, and what happens when the power goes. */
const Exposure = ({ network, lowC }: { network: Network; lowC: number }) => {
  const { q } = useUnits();
  const stay = useMemo(() => stayInFrost(network, lowC), [network, lowC]);
  const { weakest, outside, insideWithoutHeat } = stay;
  return (
    <>
      <h1 className="text-[19px] font-bold">
        {weakest ? (
          <>
            At {q(lowC, "temperature")} the{" "}
            <span className="text-rust">{weakest.name.toLowerCase()}</span> gives out first: ice
            after {after(weakest.firstIceS)}, frozen through after {after(weakest.throughS)}.
          </>
        ) : outside.length > 0 ? (
          <>
            Everything outside is kept by its own heat at {q(lowC, "temperature")}, while it has
            power.
          </>
        ) : (
          <>Nothing of this map lies outside the heated space.</>
        )}
      </h1>
      <p className="mt-1 text-[14px] text-muted">
        One bare part decides. What cannot be heated is drained, or the unit is lived in from an
        inside tank with the hose taken off.
      </p>
      {network.map.runs.every((r) => !r.heated) && outside.length > 0 && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          No pipe of this map is marked as lying inside the heated space: all of them count as
          outside (assumed). Mark those that are on the map.
        </p>
      )}
      <section aria-label="Outside" className="mt-4">
        <h2 className="font-bold">Outside the heated space</h2>
        <ol>
          {outside.slice(0, SHOWN).map((e) => (
            <Row key={e.id} of={e} lowC={lowC} />
          ))}
        </ol>
        {outside.length > SHOWN && (
          <p className="text-muted">and {outside.length - SHOWN} more, later</p>
        )}
      </section>
      <section aria-label="Heat gone" className="mt-4">
        <h2 className="font-bold">When power or gas is gone</h2>
        {insideWithoutHeat.length === 0 ? (
          <p>Nothing more freezes in the night than what is listed above.</p>
        ) : (
          <ol>
            {insideWithoutHeat.slice(0, KEPT_SHOWN).map((e) => (
              <li key={e.id} className="flex justify-between gap-3 border-t border-line py-1.5">
                <span>{capital(e.name)}</span>
                <span className="tabular-nums">frozen through {after(e.throughS)}</span>
              </li>
            ))}
          </ol>
        )}
        {insideWithoutHeat.length > KEPT_SHOWN && (
          <p className="text-muted">and {insideWithoutHeat.length - KEPT_SHOWN} more, later</p>
        )}
      </section>
      <p className="mt-2 text-[13px] text-muted">
        Worked out by Plank's formula from water at 8 °C at nightfall in still air; without heat the
        inside stays 3 K above the night (assumed). A burst comes before a pipe is frozen through.
      </p>
    </>
  );
};

/** What cable and heaters draw from one circuit. */
const Load = ({ heatedM }: { heatedM: number }) => {
  const { q } = useUnits();
  const perM = useNumber("15");
  const other = useNumber("1500");
  const volts = useNumber("230");
  const breaker = useNumber("16");
  const all = [perM, other, volts, breaker];
  const sound = all.every((f) => f.sound) && volts.value > 0;
  const load = sound
    ? circuitLoad({
        volts: volts.value,
        breakerA: breaker.value,
        cableM: heatedM,
        wattsPerM: perM.value,
        otherW: other.value,
      })
    : undefined;
  const fields = [
    ["Cable takes, W per metre", perM],
    ["Everything else through the night, W", other],
    ["Volts", volts],
    ["Breaker, A", breaker],
  ] as const;
  return (
    <section aria-label="Load on the circuit" className="mt-5 border-t border-line pt-4">
      <h2 className="font-bold">Load on the circuit</h2>
      <p className="text-[14px] text-muted">
        Heated hose and cable on this map: {q(heatedM, "length")} (from the map). The rest is
        assumed until it is typed here.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-3">
        {fields.map(([label, field]) => (
          <Field
            key={label}
            label={label}
            inputMode="decimal"
            value={field.typed}
            onChange={(e) => field.setTyped(e.target.value)}
            problem={field.sound ? undefined : "A number."}
          />
        ))}
      </div>
      {load && (
        <p
          aria-live="polite"
          className={`mt-3 border-l-4 p-2 ${load.verdict === "within" ? "border-green bg-green-soft" : "border-rust bg-rust-soft"}`}
        >
          {Math.round(load.totalW)} W, of it {Math.round(load.cableW)} W cable:{" "}
          <b>{load.amps.toFixed(1)} A</b>.
          {load.verdict === "within"
            ? ` Within the ${load.limitA.toFixed(1)} A that may run on this breaker through the night.`
            : load.verdict === "over the breaker"
              ? " More than the breaker carries."
              : ` More than the ${load.limitA.toFixed(1)} A, four fifths of the breaker, that may run through the night.`}
        </p>
      )}
      <ul className="mt-3 list-disc pl-5 text-[14px]">
        <li>Only through a ground-fault outlet; rated cable only, never laid over itself.</li>
        <li>Connections off the ground and dry; the licensed trade for anything fixed.</li>
        <li>Away from home: water and pump off, or somebody who looks.</li>
      </ul>
    </section>
  );
};

/** Staying in use while it freezes: the exposure list of a unit. */
export const StayScreen = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: me } = useMeQuery();
  const { map, error } = useUnitMap(unitId);
  const { system, q } = useUnits();
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const [typed, setTyped] = useState<string>();
  useTitle(unit ? `Staying in frost, ${unit.name}` : "Staying in frost");
  if (!unit || !map || !network || !me) return <Waiting error={unitError ?? error} />;
  const winterLowC = unit.place?.winterLowC ?? me.workshop.winterLowC;
  const words = typed ?? q(winterLowC, "temperature");
  const read = parseQuantity(words, "temperature", system);
  const lowC = read.ok ? read.quantity.si : Number.NaN;
  const sound = lowC < -0.05 && lowC >= -60;
  const heatedM = map.runs.reduce((sum, r) => sum + (r.ratedToC === undefined ? 0 : r.lengthM), 0);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[1fr_400px]">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <span className="text-[15px] opacity-90">Staying in use in frost</span>
      </InBar>
      <div className="p-5">
        {sound ? (
          <Exposure network={network} lowC={lowC} />
        ) : (
          <p role="alert" className="text-rust">
            A temperature below freezing, such as {q(-8, "temperature")}.
          </p>
        )}
      </div>
      <aside className="border-l border-line p-5">
        <Field
          label="Coldest night, outside"
          value={words}
          onChange={(e) => setTyped(e.target.value)}
          problem={sound ? undefined : "Below freezing."}
        />
        <Load heatedM={heatedM} />
      </aside>
    </div>
  );
};
