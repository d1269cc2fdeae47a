import { mayDo, type Role } from "@uppershed/contract";
import { DAY_MS } from "@uppershed/core/quantity";
import { RULE_STANDARDS } from "@uppershed/core/rules";
import { useState } from "react";
import { Link } from "react-router";
import { useKeepingQuery, useRulesQuery } from "../store/api.ts";
import { dayOf } from "../ui/words.ts";

/** Says that the last good backup is old, to whoever can do something about it. */
export const BackupLine = ({ role }: { role: Role }) => {
  const { data } = useKeepingQuery(undefined, { skip: !mayDo(role, "workshop") });
  const { data: rules } = useRulesQuery(undefined, { skip: !mayDo(role, "workshop") });
  const [now] = useState(() => Date.now());
  if (!data || data.folder === null) return null;
  const last = data.backups[0]?.at;
  const days = Number(rules?.now.values["backup.latest"] ?? RULE_STANDARDS["backup.latest"]);
  const isOld = last !== undefined && now - Date.parse(last) > days * DAY_MS;
  if (!isOld && data.problem === null) return null;
  return (
    <p role="status" className="mb-3 border-l-4 border-rust bg-rust-soft px-3 py-2 text-[15px]">
      {last === undefined ? "No backup could be made yet" : `The last backup is of ${dayOf(last)}`}
      {data.problem !== null && `: ${data.problem}`}.{" "}
      <Link to="/workshop" className="underline">
        See to it
      </Link>
    </p>
  );
};
