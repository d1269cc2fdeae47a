import { buildNetwork } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useUnitMap } from "../../planning/use-map.ts";
import { useTestNow } from "../../sending/on-device.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useTestsOfUnitQuery, useUnitQuery } from "../../store/api.ts";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { OUTCOMES } from "../../holding/words.ts";
import { PlanTest } from "./plan-test.tsx";

/** Pressure tests of a unit: those that were made, and the next one worked out from its map. */

/** The next one as the one before it was: asked for again when the joint is mended. */
const PlanAgain = ({ retestOf, ...of }: Parameters<typeof PlanTest>[0] & { retestOf: string }) => {
  const { here, error } = useTestNow(of.unitId, retestOf);
  if (!here) return <Waiting error={error} />;
  return <PlanTest {...of} again={{ id: retestOf, test: here.test }} />;
};

export const Tests = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error } = useUnitQuery(unitId);
  const { data: tests } = useTestsOfUnitQuery(unitId);
  const { map, revision } = useUnitMap(unitId);
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const [params] = useSearchParams();
  const retestOf = params.get("retest");
  const mayWork = useMay("work");
  useTitle(unit ? `Pressure tests, ${unit.name}` : "Pressure tests");
  if (!unit || !network || !tests) return <Waiting error={error} />;
  return (
    <main className="mx-auto max-w-[900px] p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · pressure tests
        </BarLink>
      </InBar>
      <h1 className="text-[22px] font-bold">Pressure tests of {unit.name}</h1>
      {tests.length === 0 ? (
        <p className="my-3 text-muted">None has been made yet.</p>
      ) : (
        <ul className="my-3" aria-label="Tests">
          {tests.map((t) => (
            <li key={t.id} className="border-t border-line">
              <Link
                to={`/units/${unit.id}/tests/${t.id}`}
                className="flex min-h-12 flex-wrap items-baseline gap-x-4 py-2 hover:bg-green-soft"
              >
                <span className="tabular-nums">{dayOf(t.at)}</span>
                <span className="min-w-0 flex-1">{t.title}</span>
                <span className={OUTCOMES[t.outcome].bad ? "font-semibold text-rust" : ""}>
                  {OUTCOMES[t.outcome].sign} {OUTCOMES[t.outcome].word}
                  {t.openedSince && `, opened since (${dayOf(t.openedSince)})`}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {mayWork &&
        (retestOf === null ? (
          <PlanTest unitId={unit.id} network={network} revision={revision} />
        ) : (
          <PlanAgain
            key={retestOf}
            retestOf={retestOf}
            unitId={unit.id}
            network={network}
            revision={revision}
          />
        ))}
    </main>
  );
};
