import type { PressureTest } from "@uppershed/core/hold";
import type { WaterMap } from "@uppershed/core/watermap";
import { useEffect, useState } from "react";
import { besideOf } from "../device/beside.ts";
import type { SplitAsked, SplitBeside, SplitFound } from "./split-beside.ts";

const beside = besideOf<SplitBeside>("split");

/** Which valves to shut next: `undefined` while it is worked out, `null` where no valve parts what is left. */
export const useSplit = (
  map: WaterMap,
  { plan }: Pick<PressureTest, "plan">,
  suspects: ReadonlySet<string>,
): SplitFound | null | undefined => {
  const [found, setFound] = useState<{
    readonly of: string;
    readonly split: SplitFound | null;
  }>();
  const isOne = suspects.size <= 1;
  // By what they are: the same test fetched again asks nothing anew, and takes no button from under a finger.
  const of = [...suspects].toSorted().join("\n");
  useEffect(() => {
    if (isOne) return undefined;
    let wanted = true;
    const asked: SplitAsked = {
      map,
      cells: plan.cells,
      lineup: plan.lineup,
      gauge: plan.gaugeCell,
      suspects: of.split("\n"),
    };
    void beside.split(asked).then((split) => wanted && setFound({ of, split: split ?? null }));
    return () => {
      wanted = false;
    };
  }, [map, plan, of, isOne]);
  if (isOne) return null;
  return found?.of === of ? found.split : undefined;
};
