import { plugVerdict, polarityVerdict } from "@uppershed/core/inspection";
import { kindOfPart, type Network, paramsOf } from "@uppershed/core/watermap";
import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { capital } from "../../ui/words.ts";
import { useRule } from "../../planning/use-rule.ts";
import { useUnits } from "../../ui/units.ts";
import { Choose, Panel, Says, type Taken, useTyped } from "./panel.tsx";

/** A pump's wires, by the meter alone. */
export const Polarity = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const pumps = network.map.parts.filter((p) =>
    kindOfPart(p).inspect.includes("polarity-right-by-meter"),
  );
  const [partId, setPartId] = useState(pumps[0]?.id ?? "");
  const [words, setWords] = useState("");
  const volts =
    words.trim() === ""
      ? undefined
      : Number(words.replace(/v$/iu, "").replace("−", "-").replace(",", "."));
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
        <Field
          label="The meter shows, V"
          maxLength={60}
          placeholder="12.4 or −12.4"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
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
            {
              kind: "volts",
              label,
              dimension: "volts",
              value: volts,
              typed: `${words} V`,
              method: "meter",
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

/** A heater's plug: its socket, and whether it goes with the vessel. */
export const Plug = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const { q } = useUnits();
  const openAt = q(Number(useRule("heater.openAt")), "temperature");
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
      lead={`Heater off at its switch and breaker, water at ${openAt} or less, pressure off, before a socket goes on. Measure across the flats of its hexagon.`}
    >
      <div className="grid max-w-md grid-cols-2 gap-3">
        <Choose label="Heater" parts={heaters} value={partId} set={setPartId} />
        <Field
          label="Across the flats"
          maxLength={60}
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
            {
              kind: "plug",
              label,
              dimension: "length",
              value: flats.si,
              typed: flats.words,
              method: "caliper",
              partId: part.id,
            },
          ]);
          flats.set("");
        }}
      >
        Keep the reading
      </Button>
    </Panel>
  );
};
