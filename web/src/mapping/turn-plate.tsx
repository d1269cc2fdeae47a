import { type Lineup, type Network, positionLabel } from "@uppershed/core/watermap";
import { PlateFrame } from "./plate-frame.tsx";
import { turnable } from "./lineups.ts";

/** The handles of a part with several: each position a button. */
export const TurnPlate = ({
  network,
  partId,
  lineup,
  onTurn,
  right = false,
  onClose,
}: {
  network: Network;
  partId: string;
  lineup: Lineup;
  onTurn: (key: string, position: string) => void;
  right?: boolean;
  onClose: () => void;
}) => {
  const part = network.map.parts.find((p) => p.id === partId);
  if (!part) return null;
  const controls = turnable(network, partId);
  return (
    <PlateFrame short right={right} name={part.name} tag={part.tag} onClose={onClose}>
      {controls.length === 0 && (
        <p className="text-[14px] text-muted">Nothing on it can be turned.</p>
      )}
      {controls.map((control) => (
        <fieldset key={control.key} className="mt-2">
          <legend className="text-[14px] text-muted">
            {control.spec.name === "main" ? "Stands" : control.spec.label}
          </legend>
          <div className="flex flex-wrap gap-2">
            {control.spec.positions.map((position) => {
              const on = (lineup[control.key] ?? control.spec.inUse) === position.name;
              return (
                <button
                  key={position.name}
                  type="button"
                  aria-pressed={on}
                  onClick={() => onTurn(control.key, position.name)}
                  className={`min-h-11 rounded border-[1.5px] px-3 text-[15px] ${on ? "border-green bg-green text-on-green" : "border-line bg-raised hover:bg-green-soft"}`}
                >
                  {positionLabel(control, position.name)}
                </button>
              );
            })}
          </div>
        </fieldset>
      ))}
    </PlateFrame>
  );
};
