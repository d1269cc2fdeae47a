import {
  KIT_POLICY,
  openEnds,
  priced,
  refitKit,
  type RefitKit,
  solverOf,
} from "@uppershed/core/refit";
import type { WaterMap } from "@uppershed/core/watermap";
import type { PriceLine } from "@uppershed/core/formats";
import loadHighs from "highs";

export interface KitTask {
  readonly today: WaterMap;
  readonly proposed: WaterMap;
  readonly prices: readonly PriceLine[];
}

const pipeOf = (key: string): string | undefined => /^pipe:(\S+)/u.exec(key)?.[1];

/** The kit of a refit by the workshop's own rolls, rests and prices, its cut list laid out by the solver. */
export default async ({ today, proposed, prices }: KitTask) => {
  const solve = solverOf(await loadHighs());
  const policy = {
    ...KIT_POLICY,
    rollM: Object.fromEntries(
      prices.flatMap(({ key, rollM }) => {
        const pipe = pipeOf(key);
        return pipe !== undefined && rollM !== null ? [[pipe, rollM]] : [];
      }),
    ),
    restsM: Object.fromEntries(
      prices.flatMap(({ key, restsM }) =>
        key.startsWith("pipe:") ? [[key.slice("pipe:".length), restsM]] : [],
      ),
    ),
  };
  const kit: RefitKit = refitKit(today, proposed, policy, solve);
  const cost = priced(
    kit.lines,
    Object.fromEntries(prices.flatMap((p) => (p.price === null ? [] : [[p.key, p.price]]))),
  );
  return {
    ...kit,
    lines: cost.lines,
    sum: cost.sum,
    missing: cost.missing,
    openEnds: openEnds(today, proposed),
  };
};
