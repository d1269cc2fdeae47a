import { type Verdict, liquidIn, strengthOf, volumeOf } from "@uppershed/core/contents";
import { INK_WORDS, inkOf } from "@uppershed/core/drawing";
import { lookFor } from "@uppershed/core/inspection";
import {
  cellName,
  kindOfPart,
  type Network,
  paramsOf,
  PIPE_SYSTEMS,
  positionLabel,
} from "@uppershed/core/watermap";
import { type Units, useUnits } from "../ui/units.ts";
import { capital } from "../ui/words.ts";
import { PlateHead } from "./plate-head.tsx";
import type { Contents } from "@uppershed/core/contents";
import type { Lineup } from "@uppershed/core/watermap";

export interface PlateProps {
  readonly network: Network;
  readonly id: string;
  readonly contents: Contents;
  readonly lineup: Lineup;
  readonly verdict: Verdict;
  /** What the register keeps of it, in words: "fitted 3 May 2021, watch". */
  readonly life?: readonly { readonly label: string; readonly words: string }[];
  readonly onClose: () => void;
}

const Row = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="flex gap-3 border-t border-line py-1.5 text-[14px]">
    <dt className="w-24 shrink-0 text-muted">{label}</dt>
    <dd className="min-w-0">{children}</dd>
  </div>
);

/** A parameter in the workshop's units. */
const inWords = (
  value: number | string | boolean,
  unit: string | undefined,
  q: Units["q"],
): string => {
  if (typeof value !== "number") return String(value);
  switch (unit) {
    case "L":
      return q(value / 1000, "volume");
    case "m":
      return q(value, "length");
    case "Pa":
      return q(value, "pressure");
    case "m³/s":
      return `${q(value * 60, "volume")} a minute`;
    case "":
      return q(value, "fraction");
    default:
      return `${value} ${unit ?? ""}`;
  }
};

const SOURCE_WORDS = {
  assumed: "assumed",
  "worked out": "worked out",
  measured: "measured",
} as const;

/** The plate of a part or a pipe: what it is, where, how it stands, what it holds, and how cold it holds with the evidence. */
export const Plate = ({
  network,
  id,
  contents,
  lineup,
  verdict,
  life = [],
  onClose,
}: PlateProps) => {
  const { q, text, holds } = useUnits();
  const part = network.map.parts.find((p) => p.id === id);
  const run = network.map.runs.find((r) => r.id === id);
  if (!part && !run) return null;
  const kind = part && kindOfPart(part);
  const cells = network.cells.flatMap((cell, i) => (cell.ownerId === id ? [{ cell, i }] : []));
  const owner = verdict.owners.find((o) => o.id === id);
  const params =
    part && kind
      ? Object.entries(kind.params).filter(([name]) => typeof paramsOf(part)[name] !== "boolean")
      : [];
  return (
    <aside
      aria-label={`Plate of ${part?.name ?? "pipe"}`}
      className="flex max-h-full flex-col overflow-auto border-l-4 border-green bg-paper p-4 shadow-xl"
    >
      <PlateHead
        name={part?.name ?? capital(cellName(network, cells[0]?.i ?? -1))}
        tag={part?.tag}
        onClose={onClose}
      />
      <dl className="mt-2">
        <Row label="What">
          {kind
            ? kind.label
            : `${PIPE_SYSTEMS.get(run?.pipe ?? "")?.label ?? run?.pipe}, ${run?.service}, ${q(run?.lengthM ?? 0, "length")}`}
        </Row>
        {part?.place && (
          <Row label="Where">
            {capital(part.place)}
            {part.access ? `. ${capital(part.access)}.` : ""}
          </Row>
        )}
        {run?.sag && (
          <Row label="Dip">
            {q(run.sag.lengthM, "length")} of it hangs below both ends and keeps its water
          </Row>
        )}
        {network.controls
          .filter((c) => c.part.id === id && c.spec.role !== "check")
          .map((c) => (
            <Row key={c.key} label={c.spec.name === "main" ? "Stands" : c.spec.label}>
              {positionLabel(c, lineup[c.key] ?? c.spec.inUse)}
            </Row>
          ))}
        {cells.map(({ cell, i }) => {
          const held = contents[i];
          const liquid = liquidIn(held);
          const volume = volumeOf(liquid);
          const trace = volume < 0.02 * cell.capacityM3;
          return (
            <Row key={cell.id} label={cell.label ? capital(cell.label) : "Holds"}>
              {trace ? "empty" : `${q(volume, "volume")} ${INK_WORDS[inkOf(liquid)]}`} of{" "}
              {q(cell.capacityM3, "volume")}
              {!trace && strengthOf(liquid) > 0.01 && `, ${Math.round(strengthOf(liquid) * 100)} %`}
              <span className="text-muted"> ({SOURCE_WORDS[held?.source ?? "assumed"]})</span>
            </Row>
          );
        })}
        {owner && (
          <Row label="Holds to">
            <b className={owner.holdsToC !== null && owner.holdsToC > -1 ? "text-rust" : ""}>
              {holds(owner.holdsToC)}
            </b>
            <br />
            <span className="text-muted">{text(owner.evidence)}</span>
          </Row>
        )}
        {part?.unknown && (
          <Row label="Not known">
            <b className="text-rust">
              {part.unknown.of === "fitted" ? "Is it fitted?" : "What do its positions join?"}
            </b>{" "}
            {part.unknown.ask}
          </Row>
        )}
        {life.map(({ label, words }) => (
          <Row key={label} label={label}>
            {words}
          </Row>
        ))}
        {part &&
          params.map(([name, spec]) => (
            <Row key={name} label={spec.label}>
              {inWords(paramsOf(part)[name] ?? "", spec.unit, q)}
              {part.params[name] === undefined && <span className="text-muted"> (assumed)</span>}
            </Row>
          ))}
        {kind && kind.inspect.length > 0 && (
          <Row label="Look at">{kind.inspect.map((id) => lookFor(id).point).join("; ")}</Row>
        )}
        {kind && <Row label="Known of it">{kind.about}</Row>}
      </dl>
    </aside>
  );
};
