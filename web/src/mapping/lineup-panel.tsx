import { type Lineup, MODES, type Network, turnsBetween, type WaterMap } from "@uppershed/core";
import { Button } from "../ui/button.tsx";
import { capital } from "../ui/words.ts";
import { lineupOf, type Standing } from "./lineups.ts";

const FROM: readonly Standing[] = ["in use", "as found", ...MODES];

const Select = ({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: Standing;
  options: readonly Standing[];
  onChoose: (value: Standing) => void;
}) => (
  <label className="flex items-center gap-2 text-[14px]">
    <span className="w-12 text-muted">{label}</span>
    <select aria-label={label} className="field min-w-0 flex-1" value={value} onChange={(e) => onChoose(e.target.value as Standing)}>
      {options.map((option) => (
        <option key={option} value={option}>
          {capital(option)}
        </option>
      ))}
    </select>
  </label>
);

/** From how it stands to how it should stand: a short list of turns, in the order in which they are made. */
export const LineupPanel = ({
  map,
  network,
  asFound,
  from,
  to,
  onFrom,
  onTo,
  onProposal,
}: {
  map: WaterMap;
  network: Network;
  asFound: Lineup;
  from: Standing;
  to: Standing;
  onFrom: (standing: Standing) => void;
  onTo: (standing: Standing) => void;
  /** Back to what the graph proposes. */
  onProposal: () => void;
}) => {
  const turns = turnsBetween(network, lineupOf(network, from, asFound), lineupOf(network, to, asFound));
  const corrected = to !== "in use" && to !== "as found" ? Object.keys(map.modes[to] ?? {}).length : 0;
  return (
    <section aria-label="Lineups" className="flex min-h-0 flex-col gap-2 px-4 py-3">
      <h2 className="text-[15px] font-bold">Lineups</h2>
      <Select label="From" value={from} options={FROM} onChoose={onFrom} />
      <Select label="To" value={to} options={FROM} onChoose={onTo} />
      <p className="text-[13px] text-muted">
        {to === "as found"
          ? "Tap valves and taps on the drawing to set how they were found."
          : to === "in use"
            ? "How the map says it stands in use. Tap on the drawing to correct it."
            : "Proposed by the graph. Tap a valve or tap on the drawing to correct it; the correction is kept with the map."}
      </p>
      {corrected > 0 && (
        <p className="flex flex-wrap items-center gap-2 text-[13px]">
          {corrected} {corrected === 1 ? "correction" : "corrections"} by hand
          <Button onClick={onProposal}>Back to the proposal</Button>
        </p>
      )}
      <h3 className="mt-1 text-[15px] font-semibold">
        {turns.length === 0 ? "Nothing to turn" : `${turns.length} ${turns.length === 1 ? "turn" : "turns"}, in this order`}
      </h3>
      <ol className="min-h-0 overflow-auto">
        {turns.map((turn, i) => (
          <li key={turn.key} className="flex gap-3 border-t border-line py-1.5 text-[14px]">
            <span className="w-5 shrink-0 text-right text-muted">{i + 1}</span>
            <span>
              <b>
                {turn.tag ? `${turn.tag}, ` : ""}
                {turn.name}
              </b>
              : {turn.fromLabel} → <b>{turn.toLabel}</b>
              {turn.handle && <span className="text-muted"> ({turn.handle})</span>}
              {turn.place && <span className="block text-[13px] text-muted">{capital(turn.place)}</span>}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
};
