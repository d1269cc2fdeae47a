import type { Unit } from "@uppershed/contract";
import { Link } from "react-router";
import { InBar } from "../../shell/slots.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

/** In the bar: whose map it is, and which revision of it. */
export const BenchBar = ({
  unit,
  revision,
  changed,
  onSister,
  proposal,
}: {
  unit: Unit;
  revision: number;
  changed: boolean;
  onSister: () => void;
  /** Not the unit's own map: a proposal, kept by itself. */
  proposal: { readonly name: string; readonly back: string } | undefined;
}) =>
  proposal ? (
    <InBar>
      <BarLink to={proposal.back}>
        <b>{unit.name}</b> · proposal: {proposal.name}
        {changed && ", not saved"}
      </BarLink>
    </InBar>
  ) : (
    <InBar>
      <BarLink to={`/units/${unit.id}`}>
        <b>{unit.name}</b>
        <span className="hidden lg:inline"> · {unit.craft}</span>
      </BarLink>
      <span className="hidden whitespace-nowrap text-[14px] opacity-90 lg:inline">
        map revision {revision}
        {changed && ", not saved"}
      </span>
      <span className="whitespace-nowrap text-[14px] opacity-90 lg:hidden">
        rev. {revision}
        {changed && "*"}
      </span>
      <Link
        to={`/units/${unit.id}/map/revisions`}
        className="min-h-11 content-center whitespace-nowrap text-[14px] text-on-bar underline"
      >
        revisions
      </Link>
      <button
        type="button"
        className="min-h-11 whitespace-nowrap text-[14px] text-on-bar underline"
        onClick={onSister}
      >
        sister unit
      </button>
    </InBar>
  );
