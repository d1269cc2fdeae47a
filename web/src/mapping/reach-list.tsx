import { type Reach } from "@uppershed/core/survey";
import { cellName, type Lineup, type Network, positionLabel } from "@uppershed/core/watermap";
import { useUnits } from "../ui/units.ts";

const openingName = (network: Network, reach: Reach): string => {
  const opening = network.openings.find((o) => o.id === reach.opening);
  if (!opening) return reach.part;
  const side = network.controls.find((c) => c.key === reach.side);
  if (side && side.spec.name !== "main")
    return `${opening.part.name}, ${side.spec.label.toLowerCase()}`;
  const several =
    network.openings.filter((o) => o.part.id === reach.part && o.use === opening.use).length > 1;
  return several ? `${opening.part.name}, ${opening.label}` : opening.part.name;
};

/** Where water comes from for everything that stands open, with what is to be pushed along the way. */
export const ReachList = ({
  network,
  lineup,
  reaches,
}: {
  network: Network;
  lineup: Lineup;
  reaches: readonly Reach[];
}) => {
  const { q } = useUnits();
  const needs = ({ key, needs: position }: Reach["blockedBy"][number]): string => {
    const control = network.controls.find((c) => c.key === key);
    if (!control) return key;
    const name = control.part.tag ?? control.part.name;
    const side = control.spec.name === "main" ? "" : `, ${control.spec.label.toLowerCase()}`;
    return `${name}${side} ${positionLabel(control, position)} (now ${positionLabel(control, lineup[key] ?? control.spec.inUse)})`;
  };
  return (
    <section aria-label="Reach" className="min-h-0 overflow-auto">
      <h2 className="px-4 pt-3 text-[15px] font-bold">What water reaches</h2>
      {reaches.length === 0 && (
        <p className="px-4 py-2 text-[14px] text-muted">
          Nothing stands open. Tap a tap, a drain or a valve on the drawing to turn it.
        </p>
      )}
      <ul>
        {reaches.map((reach) => (
          <li
            key={`${reach.opening} ${reach.side ?? ""}`}
            className="border-t border-line px-4 py-2 text-[14px]"
          >
            <b>{openingName(network, reach)}</b>
            {reach.source === undefined ? (
              <span className="block text-rust">
                Nothing comes:{" "}
                {reach.blockedBy.length > 0
                  ? `needs ${reach.blockedBy.map(needs).join("; ")}`
                  : "no pipe leads there"}
              </span>
            ) : (
              <span className="block">
                from {reach.source}: {q(reach.volumeM3, "volume")} over {q(reach.lengthM, "length")}{" "}
                (worked out), past{" "}
                {reach.cells
                  .map((c) => network.cells[c])
                  .filter((c) => c?.part?.tag)
                  .map((c) => c?.part?.tag)
                  .filter((tag, i, all) => all.indexOf(tag) === i)
                  .join(", ") || cellName(network, reach.cells[1] ?? -1)}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
};
