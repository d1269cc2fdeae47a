import type { UnitId, Visit, Workshop } from "@uppershed/contract";
import { useEffect, useState } from "react";
import { useDispatch } from "react-redux";
import { forecastFor } from "../../planning/forecast.ts";
import { houseSetup } from "../../planning/house.ts";
import { loadList } from "../../planning/load-list.ts";
import { planOnce } from "../../planning/use-plan.ts";
import { api } from "../../store/api.ts";
import type { makeStore } from "../../store/index.ts";
import { useUnits } from "../../ui/units.ts";

interface Needs {
  readonly antifreezeM3: number;
  readonly jugs: number;
  readonly minutes: number;
  readonly carry: readonly string[];
  readonly of: readonly string[];
}

/** What to load, summed over today's winterizings that are not done yet. */
export const Load = ({ visits, workshop }: { visits: readonly Visit[]; workshop: Workshop }) => {
  const dispatch = useDispatch<ReturnType<typeof makeStore>["dispatch"]>();
  const { q } = useUnits();
  const [needs, setNeeds] = useState<Needs>();
  const [lacking, setLacking] = useState<readonly string[]>([]);
  const open = visits.filter(
    (v) => v.jobs.includes("winterize") && v.state !== "ready" && v.state !== "gone",
  );
  const key = JSON.stringify(open.map((v) => [v.unitId, v.unitName]));
  useEffect(() => {
    let wanted = true;
    const work = async (): Promise<void> => {
      const { data: rules } = await dispatch(api.endpoints.rules.initiate());
      const { data: kit } = await dispatch(api.endpoints.kit.initiate());
      const all: Needs[] = [];
      const without: string[] = [];
      for (const [unitId, name] of JSON.parse(key) as [string, string][]) {
        const { data } = await dispatch(api.endpoints.map.initiate(unitId));
        const { data: unit } = await dispatch(api.endpoints.unit.initiate(unitId));
        const { data: standing } = await dispatch(api.endpoints.standing.initiate({ id: unitId }));
        const setup = unit && rules && kit && houseSetup(workshop, rules, kit.kit, unit.place);
        const plan =
          data &&
          setup &&
          (await planOnce(data.document, setup, standing?.begins ?? null).catch(() => undefined));
        if (!plan || !setup) {
          without.push(name);
          continue;
        }
        const { data: runs = [] } = await dispatch(
          api.endpoints.unitRuns.initiate(unitId as UnitId),
        );
        const { carryM3, jugs, minutes } = forecastFor(plan, setup, runs);
        all.push({
          antifreezeM3: carryM3,
          jugs,
          minutes,
          carry: plan.carry.slice(1),
          of: [name],
        });
      }
      if (!wanted) return;
      setLacking(without);
      const sum = (pick: (n: Needs) => number): number => all.reduce((s, n) => s + pick(n), 0);
      setNeeds({
        antifreezeM3: sum((n) => n.antifreezeM3),
        jugs: sum((n) => n.jugs),
        minutes: sum((n) => n.minutes),
        carry: loadList(all.flatMap((n) => n.carry)),
        of: all.flatMap((n) => n.of),
      });
    };
    void work();
    return () => {
      wanted = false;
    };
  }, [dispatch, key, workshop]);
  return (
    <section aria-label="What to load" className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <h2 className="font-bold">To load today</h2>
      {open.length === 0 ? (
        <p className="text-muted">Nothing: no winterizing is open today.</p>
      ) : needs === undefined ? (
        <p role="status" className="text-muted">
          Reckoning …
        </p>
      ) : (
        <>
          <p>
            <b className="text-[19px]">{needs.jugs} jugs</b> of antifreeze{" "}
            <span className="text-muted">
              ({q(needs.antifreezeM3, "volume")}: enough in 9 of 10, or as it took before; for{" "}
              {needs.of.join(" and ") || "none"})
            </span>
          </p>
          {lacking.length > 0 && (
            <p className="border-l-4 border-rust bg-rust-soft px-2 text-[14px]">
              Not counted: {lacking.join(", ")}. There is no map of it here, or no plan could be
              made of it.
            </p>
          )}
          <p className="text-[14px] text-muted">{needs.carry.join(" · ")}</p>
        </>
      )}
    </section>
  );
};
