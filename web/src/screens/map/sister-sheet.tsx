import type { Unit } from "@uppershed/contract";
import { bringOver, siblingDifferences } from "@uppershed/core/survey";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { Link } from "react-router";
import { Differences } from "../../mapping/differences.tsx";
import { useMapAtQuery, useMapQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";

const read = (document: unknown): WaterMap | undefined => {
  const found = document === undefined ? undefined : readWaterMap(document);
  return found?.ok ? found.map : undefined;
};

/** What this unit has that its sister has not; and the sister's later changes, brought over without losing that. */
const Sister = ({
  sister,
  map,
  onBring,
}: {
  sister: NonNullable<Unit["siblingOf"]>;
  map: WaterMap;
  onBring: (map: WaterMap, upTo: number) => void;
}) => {
  const { data: newest } = useMapQuery(sister.unitId);
  const { data: then } = useMapAtQuery({ id: sister.unitId, revision: sister.revision });
  const [template, base] = [
    useMemo(() => read(newest?.document), [newest]),
    useMemo(() => read(then?.document), [then]),
  ];
  if (!template || !base || !newest) return <p role="status">One moment …</p>;
  const differs = siblingDifferences(template, map);
  const fresh = newest.revision > sister.revision;
  const brought = fresh ? bringOver(base, template, map) : undefined;
  return (
    <>
      <p className="text-[15px]">
        This map was copied from <Link to={`/units/${sister.unitId}`}>{sister.name}</Link>, revision{" "}
        {sister.revision}.
      </p>
      <h3 className="mt-3 font-semibold">What differs between them now</h3>
      <div className="max-h-56 overflow-auto">
        <Differences list={differs} />
      </div>
      {brought && (
        <div className="mt-4 border-t border-line pt-3">
          <p>
            {sister.name} is at revision {newest.revision} now.
          </p>
          {brought.ok ? (
            <>
              {brought.clashes.length > 0 && (
                <ul className="mt-1 list-disc pl-5 text-[14px] text-rust">
                  {brought.clashes.map((clash) => (
                    <li key={`${clash.what} ${clash.id}`}>
                      {clash.name}: {clash.why}; this unit's own stays.
                    </li>
                  ))}
                </ul>
              )}
              <Button
                look="act"
                className="mt-2"
                onClick={() => onBring(brought.map, newest.revision)}
              >
                Bring its changes over, keep what differs
              </Button>
            </>
          ) : (
            <p role="alert" className="text-rust">
              They do not fit together: {brought.problems[0]}
            </p>
          )}
        </div>
      )}
    </>
  );
};

/** Sister units: copy this map for one, or follow the one that this was copied from. */
export const SisterSheet = ({
  onClose,
  unit,
  map,
  onBring,
}: {
  onClose: () => void;
  unit: Unit;
  map: WaterMap;
  onBring: (map: WaterMap, upTo: number) => void;
}) => (
  <Sheet open onClose={onClose} title="Sister units">
    {unit.siblingOf ? (
      <Sister
        sister={unit.siblingOf}
        map={map}
        onBring={(next, upTo) => {
          onBring(next, upTo);
          onClose();
        }}
      />
    ) : (
      <p>
        This map stands by itself. A sister unit gets a copy of it; later changes here can be
        brought over to the sister.
      </p>
    )}
    <Link
      to={`/units/new?sister=${unit.id}`}
      className="mt-4 inline-flex min-h-[54px] items-center rounded border-[1.5px] border-green px-5 text-[17px] font-semibold text-green"
    >
      Take in a sister of {unit.name}
    </Link>
  </Sheet>
);
