import type { RunState } from "@uppershed/core/procedure";
import { timeOf } from "../../ui/words.ts";

/** Every step that was signed, by whom and when, with what was read at it. */
export const StepsDone = ({ state }: { state: RunState }) => (
  <table className="w-full border-collapse text-left text-[14px]">
    <thead className="text-[13px] text-muted">
      <tr>
        <th className="py-1 pr-2 font-semibold">No.</th>
        <th className="py-1 pr-2 font-semibold">Step</th>
        <th className="py-1 pr-2 font-semibold">Read</th>
        <th className="py-1 font-semibold">Signed</th>
      </tr>
    </thead>
    <tbody>
      {state.done.map(({ step, signed }, i) => (
        <tr key={step.id} className="break-inside-avoid border-t border-line align-top">
          <td className="py-1 pr-2 text-muted">{i + 1}</td>
          <td className="py-1 pr-2">{step.title}</td>
          <td className="py-1 pr-2">
            {state.readings
              .filter((r) => r.stepId === step.id)
              .map((r) => r.typed)
              .join(", ")}
          </td>
          <td className="whitespace-nowrap py-1">
            {signed.name}, {timeOf(signed.at)}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
