import { turnsBetween } from "@uppershed/core/survey";
import { MODES, type Network, type WaterMap } from "@uppershed/core/watermap";
import { Button } from "../ui/button.tsx";
import { ageOf, capital, dayOf, timeOf } from "../ui/words.ts";
import { type KnownLineups, lineupOf, type LineupName } from "./lineups.ts";

const FROM: readonly LineupName[] = ["in use", "as left", "as found", ...MODES];

/** What can be done with how the visit found the unit. */
export interface FoundHere {
  /** When it was written down; nothing yet. */
  readonly at: string | undefined;
  readonly by: string | undefined;
  /** What is tapped here and not kept yet. */
  readonly tapped: number;
  /** Keeps it with the visit; or why it cannot be kept. */
  readonly keep: (() => void) | string;
}

const Select = ({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: LineupName;
  options: readonly LineupName[];
  onChoose: (value: LineupName) => void;
}) => (
  <label className="flex items-center gap-2 text-[14px]">
    <span className="w-12 text-muted">{label}</span>
    <select
      aria-label={label}
      className="field min-w-0 flex-1"
      value={value}
      onChange={(e) => onChoose(e.target.value as LineupName)}
    >
      {options.map((option) => (
        <option key={option} value={option}>
          {capital(option)}
        </option>
      ))}
    </select>
  </label>
);

const about = (to: LineupName): string => {
  if (to === "as found") return "Tap valves and taps on the drawing to set how they were found.";
  if (to === "as left")
    return "How its last signed sheet or visit left it; it is not changed here.";
  if (to === "in use")
    return "How the map says it stands in use. Tap on the drawing to correct it.";
  return "Proposed by the graph. Tap a valve or tap on the drawing to correct it; the correction is kept with the map.";
};

const Found = ({ found }: { found: FoundHere }) => (
  <div className="text-[13px]">
    <p>
      {found.at
        ? `Found so by this visit, ${dayOf(found.at)} ${timeOf(found.at)}, ${found.by}.`
        : "This visit has not written down yet how it was found; shown is how it was left."}
    </p>
    {found.tapped > 0 &&
      (typeof found.keep === "string" ? (
        <p className="text-rust">{found.keep}</p>
      ) : (
        <Button className="mt-1" onClick={found.keep}>
          Keep {found.tapped} {found.tapped === 1 ? "change" : "changes"} as found
        </Button>
      ))}
  </div>
);

/** From how it stands to how it should stand: a short list of turns, in the order in which they are made. */
export const LineupPanel = ({
  map,
  network,
  known,
  leftAt,
  found,
  from,
  to,
  onFrom,
  onTo,
  onProposal,
}: {
  map: WaterMap;
  network: Network;
  known: KnownLineups;
  /** When it was written down how it was left. */
  leftAt: string | undefined;
  found: FoundHere;
  from: LineupName;
  to: LineupName;
  onFrom: (standing: LineupName) => void;
  onTo: (standing: LineupName) => void;
  /** Back to what the graph proposes. */
  onProposal: () => void;
}) => {
  const turns = turnsBetween(network, lineupOf(network, from, known), lineupOf(network, to, known));
  const corrected =
    to !== "in use" && to !== "as left" && to !== "as found"
      ? Object.keys(map.modes[to] ?? {}).length
      : 0;
  return (
    <section aria-label="Lineups" className="flex min-h-0 flex-col gap-2 px-4 py-3">
      <h2 className="text-[15px] font-bold">Lineups</h2>
      <Select label="From" value={from} options={FROM} onChoose={onFrom} />
      <Select label="To" value={to} options={FROM} onChoose={onTo} />
      <p className="text-[13px] text-muted">{about(to)}</p>
      {(from === "as left" || to === "as left") && (
        <p className="text-[13px]">
          {leftAt
            ? `Left so ${ageOf(leftAt)}.`
            : "Nobody has written down how it was left: as in use is assumed."}
        </p>
      )}
      {(from === "as found" || to === "as found") && <Found found={found} />}
      {corrected > 0 && (
        <p className="flex flex-wrap items-center gap-2 text-[13px]">
          {corrected} {corrected === 1 ? "correction" : "corrections"} by hand
          <Button onClick={onProposal}>Back to the proposal</Button>
        </p>
      )}
      <h3 className="mt-1 text-[15px] font-semibold">
        {turns.length === 0
          ? "Nothing to turn"
          : `${turns.length} ${turns.length === 1 ? "turn" : "turns"}, in this order`}
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
              {turn.place && (
                <span className="block text-[13px] text-muted">{capital(turn.place)}</span>
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
};
