import { liquidIn, strengthOf, volumeOf, warmthOf } from "@uppershed/core/contents";
import { COMMON_SIM_SETTINGS } from "@uppershed/core/simulation";
import type { Network } from "@uppershed/core/watermap";
import { useUnits } from "../ui/units.ts";
import { openingWords } from "./say-action.ts";
import type { Sandbox } from "./use-sandbox.ts";

const AROUND_C = COMMON_SIM_SETTINGS.flow.temperatureC;

/** What leaves where, how strong and how warm, at the moment that is looked at. */
export const FlowsTab = ({ network, sandbox }: { network: Network; sandbox: Sandbox }) => {
  const { q } = useUnits();
  const { shown } = sandbox;
  const rows = Object.entries(shown?.openingM3PerS ?? {}).filter(
    ([, flow]) => Math.abs(flow) > 1e-9,
  );
  if (!shown || rows.length === 0)
    return (
      <p className="px-4 py-3 text-[14px] text-muted">
        Nothing flows at this moment. Open something, then wait.
      </p>
    );
  return (
    <table className="w-full text-left text-[14px]">
      <caption className="sr-only">Flow at each opening (worked out)</caption>
      <thead>
        <tr className="text-muted">
          <th className="px-4 py-1 font-normal">Opening</th>
          <th className="px-2 py-1 text-right font-normal">Flow</th>
          <th className="px-2 py-1 text-right font-normal">Strength</th>
          <th className="px-4 py-1 text-right font-normal">Warmth</th>
        </tr>
      </thead>
      <tbody>
        {rows
          .toSorted((a, b) => b[1] - a[1])
          .map(([id, flow]) => {
            const cell = network.openings.find((o) => o.id === id)?.cell ?? -1;
            const liquid = liquidIn(shown.contents[cell]);
            return (
              <tr key={id} className="border-t border-line">
                <td className="px-4 py-1.5">{openingWords(network, id)}</td>
                <td className="whitespace-nowrap px-2 py-1.5 text-right tabular-nums">
                  {flow > 0 ? "" : "in "}
                  {q(Math.abs(flow), "flow")}
                </td>
                <td className="px-2 py-1.5 text-right tabular-nums">
                  {volumeOf(liquid) > 0 ? `${Math.round(100 * strengthOf(liquid))} %` : "air"}
                </td>
                <td className="px-4 py-1.5 text-right tabular-nums">
                  {q(AROUND_C + warmthOf(liquid), "temperature")}
                </td>
              </tr>
            );
          })}
      </tbody>
    </table>
  );
};
