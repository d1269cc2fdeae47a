import { mayDo, type Me, type Proposal } from "@uppershed/contract";
import { Link } from "react-router";
import { problemText, useAnswerProposalMutation, useWaitingQuery } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { dayOf } from "../ui/words.ts";

const Asked = ({ proposal, me }: { proposal: Proposal; me: Me["person"] }) => {
  const [answer, answering] = useAnswerProposalMutation();
  const mayAnswer = mayDo(me.role, proposal.kind === "rules" ? "house" : "merge");
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1 last:border-0">
      <span className="min-w-0 flex-1 basis-64">
        {proposal.what} <span className="text-muted">({proposal.by})</span>
      </span>
      {mayAnswer && proposal.personId !== me.id && (
        <Button
          look="act"
          disabled={answering.isLoading}
          onClick={() => void answer({ id: proposal.id, answer: "countersign" })}
        >
          Countersign
        </Button>
      )}
      {mayAnswer && (
        <Button
          disabled={answering.isLoading}
          onClick={() => void answer({ id: proposal.id, answer: "withdraw" })}
        >
          {proposal.personId === me.id ? "Take it back" : "Refuse it"}
        </Button>
      )}
      {answering.error && (
        <p role="alert" className="w-full text-rust">
          {problemText(answering.error)}
        </p>
      )}
    </li>
  );
};

/** What waits for somebody else's countersign: records, and what somebody asked for. */
export const WaitingLine = ({ me: { person } }: { me: Me }) => {
  const { data } = useWaitingQuery();
  if (!data || data.records.length + data.proposals.length === 0) return null;
  return (
    <section
      aria-label="Waits for a countersign"
      className="mb-3 border-l-4 border-green bg-green-soft px-3 py-2 text-[15px]"
    >
      <h2 className="font-bold">Waits for a countersign</h2>
      <ul>
        {data.records.map((r) => (
          <li key={r.runId} className="border-b border-line py-1 last:border-0">
            <Link to={`/records/${r.runId}`} className="underline">
              Signed sheet of {r.unit}
            </Link>
            , closed {dayOf(r.closedAt)} by {r.by}
          </li>
        ))}
        {data.proposals.map((p) => (
          <Asked key={p.id} proposal={p} me={person} />
        ))}
      </ul>
    </section>
  );
};
