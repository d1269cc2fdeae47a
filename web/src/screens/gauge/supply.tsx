import { supplyVerdict } from "@uppershed/core/inspection";
import { type Network } from "@uppershed/core/watermap";
import { useRule } from "../../planning/use-rule.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { capital } from "../../ui/words.ts";
import { Panel, Says, type Taken, useTyped } from "./panel.tsx";

/** A supply's pressure, still and flowing, against what bears least behind the inlet. */
export const Supply = ({ network, keep }: { network: Network; keep: (t: Taken[]) => void }) => {
  const { text } = useUnits();
  const limits = {
    lowPa: Number(useRule("supply.low")),
    goodPa: Number(useRule("supply.good")),
    failPa: Number(useRule("supply.fail")),
  };
  const still = useTyped("pressure");
  const flowing = useTyped("pressure");
  const verdict =
    still.si === undefined ? undefined : supplyVerdict(network, still.si, flowing.si, limits);
  return (
    <Panel
      title="Supply pressure"
      lead="Gauge at the inlet, every tap shut; then one tap open. Read both before the hose stays on."
    >
      <div className="grid max-w-md grid-cols-2 gap-3">
        <Field
          label="Still"
          maxLength={60}
          placeholder="3.5 bar"
          value={still.words}
          problem={still.problem}
          onChange={(e) => still.set(e.target.value)}
        />
        <Field
          label="Flowing"
          maxLength={60}
          placeholder="2.8 bar"
          value={flowing.words}
          problem={flowing.problem}
          onChange={(e) => flowing.set(e.target.value)}
        />
      </div>
      {verdict && (
        <Says
          bad={
            verdict.verdict === "unsafe" || verdict.verdict === "regulate" || verdict.restriction
          }
        >
          <b>{capital(verdict.verdict)}.</b> {text(verdict.why)}{" "}
          <span className="text-muted">
            Weakest behind the inlet: {verdict.weakest}
            {Number.isFinite(verdict.weakestPa) &&
              `, ${text(`{pa:${Math.round(verdict.weakestPa)}}`)}`}{" "}
            (worked out from the map).
          </span>
        </Says>
      )}
      <Button
        className="mt-2"
        disabled={still.si === undefined}
        onClick={() => {
          if (still.si === undefined) return;
          const one = (kind: string, label: string, value: number, typed: string): Taken => ({
            spot: "supply",
            kind,
            label,
            dimension: "pressure",
            value,
            typed,
            method: "gauge",
            partId: null,
          });
          keep([
            one("still", "Supply pressure, still", still.si, still.words),
            ...(flowing.si === undefined
              ? []
              : [one("flowing", "Supply pressure, flowing", flowing.si, flowing.words)]),
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
