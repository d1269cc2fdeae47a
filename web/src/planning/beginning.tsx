import { departuresFrom, type RunSetup } from "@uppershed/core/procedure";
import { useState } from "react";
import { useNavigate } from "react-router";
import { uuid } from "../device/uuid.ts";
import { problemText, useMeQuery, useStartRunMutation } from "../store/api.ts";
import { Button } from "../ui/button.tsx";

interface Asked {
  readonly unitId: string;
  readonly visitId: string | null;
  readonly mapRevision: number;
  /** What it is planned by, with the house's rules in it; none yet while they are fetched. */
  readonly setup: RunSetup | undefined;
}

/** From a plan to its run: why it departs from the house's rules, and the beginning of it at the unit. */
export const useBeginning = ({ setup, ...asked }: Asked) => {
  const { data: me } = useMeQuery();
  const navigate = useNavigate();
  const [reason, setReason] = useState("");
  // Pressed twice it is still one run.
  const [id] = useState(uuid);
  const [start, starting] = useStartRunMutation();
  const rules = setup?.rules;
  const departures = setup && rules ? departuresFrom(setup, rules, rules.winterLow) : [];
  const withReasons: RunSetup | undefined =
    setup && rules
      ? {
          ...setup,
          rules: {
            ...rules,
            departures: departures.map((d) => ({
              key: d.key,
              name: me?.person.name ?? "",
              reason: reason.trim(),
            })),
          },
        }
      : setup;
  const begin = async (): Promise<void> => {
    if (!withReasons) return;
    const reply = await start({ id, ...asked, setup: withReasons });
    if (reply.data) await navigate(`/runs/${reply.data.id}`);
  };
  return {
    departures,
    reason,
    setReason,
    withReasons,
    begin,
    problem: starting.error,
    mayBegin:
      me !== undefined && !starting.isLoading && (departures.length === 0 || reason.trim() !== ""),
  };
};

/** @param ready whether there is a plan that may be begun */
export const BeginButton = ({
  beginning: { begin, mayBegin, problem },
  ready,
}: {
  beginning: ReturnType<typeof useBeginning>;
  ready: boolean;
}) => (
  <>
    <Button look="act" big disabled={!ready || !mayBegin} onClick={() => void begin()}>
      Begin at the unit
    </Button>
    {problem !== undefined && (
      <p role="alert" className="w-full border-l-4 border-rust bg-rust-soft p-2">
        {problemText(problem)}
      </p>
    )}
  </>
);
