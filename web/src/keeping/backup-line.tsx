import { mayDo, type Role } from "@uppershed/contract";
import { DAY_MS } from "@uppershed/core/quantity";
import { useState } from "react";
import { Link } from "react-router";
import { useKeepingQuery } from "../store/api.ts";
import { dayOf } from "../ui/words.ts";

// Two nights may pass without one: a machine that was off.
const OLD_AFTER_DAYS = 3;

/** Says that the last good backup is old, to whoever can do something about it. */
export const BackupLine = ({ role }: { role: Role }) => {
  const { data } = useKeepingQuery(undefined, { skip: !mayDo(role, "workshop") });
  const [now] = useState(() => Date.now());
  if (!data || data.folder === null) return null;
  const last = data.backups[0]?.at;
  const isOld = last !== undefined && now - Date.parse(last) > OLD_AFTER_DAYS * DAY_MS;
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
