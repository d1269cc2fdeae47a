import { type Action, rowName } from "@uppershed/core/procedure";
import { fillIn, type UnitSystem } from "@uppershed/core/quantity";
import { type Network, positionLabel } from "@uppershed/core/watermap";
import { Check, Lock } from "lucide-react";

/** What ends a run of the pump: what is read, air, or where nothing can be read the volume. */
const untilWhat = (action: Extract<Action, { type: "pump" }>): string =>
  action.wants
    ? `Let it run, about {m3:${action.aboutM3 ?? action.maxM3}}${action.wants.full ? ", until no air comes" : ""}`
    : untilElse(action);
const untilElse = (action: Extract<Action, { type: "pump" }>): string =>
  action.untilAir !== undefined
    ? "Run until it spits and gives only air"
    : action.untilStrength === undefined
      ? `Let about {m3:${action.aboutM3 ?? action.maxM3}} run through`
      : `Run until it reads ${Math.round(action.untilStrength * 100)} % or more`;

/** What a row asks of the hand, in words. */
export const wordsOf = (
  network: Network,
  action: Action,
  units: UnitSystem,
): {
  tag: string;
  title: string;
  change: string | undefined;
  to: string | undefined;
  handle: string;
} => {
  switch (action.type) {
    case "set-valve": {
      const control = network.controls.find((c) => c.key === action.control);
      const label = (position: string): string =>
        control ? positionLabel(control, position) : position;
      return {
        tag: action.tag,
        title: action.label,
        change: label(action.from),
        to: label(action.position),
        handle: action.handle,
      };
    }
    case "pump":
      return {
        tag: "",
        title: fillIn(untilWhat(action), units),
        change: undefined,
        to: undefined,
        handle: "",
      };
    case "fill":
      return {
        tag: "",
        title: fillIn(`${action.label}: about {m3:${action.volumeM3}}`, units),
        change: undefined,
        to: undefined,
        handle: "",
      };
    case "dose":
      return {
        tag: "",
        title: fillIn(`${action.label}: {m3:${action.bottleM3}}`, units),
        change: undefined,
        to: undefined,
        handle: "",
      };
    case "drain":
      return { tag: "", title: "Let it drain", change: undefined, to: undefined, handle: "" };
    default:
      return {
        tag: "",
        title: fillIn(action.label, units),
        change: undefined,
        to: undefined,
        handle: "",
      };
  }
};

/** One row to tick: a valve by its tag with where it must stand, or a thing to see to. */
export const RowTick = ({
  network,
  action,
  ticked,
  says,
  after,
  onTick,
  units,
}: {
  network: Network;
  action: Action;
  ticked: boolean;
  /** What would come of it, before it is done. */
  says?: readonly string[];
  /** The row that comes before this one and is not ticked yet. */
  after?: Action | undefined;
  onTick: (done: boolean) => void;
  units: UnitSystem;
}) => {
  const { tag, title, change, to, handle } = wordsOf(network, action, units);
  const waits = after !== undefined && !ticked;
  const first = after && fillIn(rowName(network, after), units);
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={ticked}
      aria-disabled={waits || undefined}
      aria-label={[
        `${tag} ${title}`.trim(),
        to === undefined ? "" : `${change} to ${to}`,
        handle,
        waits ? `after: ${first}` : "",
      ]
        .filter(Boolean)
        .join(", ")}
      onClick={() => !waits && onTick(!ticked)}
      className={`flex min-h-[58px] w-full items-center gap-3 rounded border-[1.5px] px-3 py-2 text-left ${ticked ? "border-green bg-green-soft" : waits ? "border-dashed border-line bg-ground" : "border-line bg-raised hover:border-green"}`}
    >
      {tag && (
        <span className="w-12 shrink-0 rounded bg-ground py-1 text-center text-[16px] font-bold">
          {tag}
        </span>
      )}
      <span className="min-w-0 flex-1">
        <span className="block text-[15.5px]">{title}</span>
        {to !== undefined && (
          <span className="block text-[15px]">
            {change} <span aria-hidden>→</span> <b className="text-[17px]">{to}</b>
            {handle && <span className="ml-2 text-[14px] text-muted">{handle}</span>}
          </span>
        )}
        {waits && <span className="block text-[13.5px] text-muted">after: {first}</span>}
        {!ticked &&
          says?.map((words) => (
            <span key={words} className="block text-[13.5px] text-muted">
              Turned now: {fillIn(words, units)}
            </span>
          ))}
      </span>
      <span
        aria-hidden
        className={`flex size-10 shrink-0 items-center justify-center rounded border-2 ${ticked ? "border-green bg-green text-on-green" : waits ? "border-dashed border-line" : "border-green bg-raised"}`}
      >
        {ticked && <Check size={26} strokeWidth={3} />}
        {waits && <Lock size={18} className="text-muted" />}
      </span>
    </button>
  );
};
