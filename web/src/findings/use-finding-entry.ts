import type { FindingOnFile } from "@uppershed/contract";
import { addToFinding, type FindingBody, findingBodySchema } from "@uppershed/core/inspection";
import { useCallback } from "react";
import type { z } from "zod";
import { useSendLater } from "../sending/use-sender.ts";
import { useMeQuery } from "../store/api.ts";
import { uuid } from "../device/uuid.ts";

export interface Of {
  readonly unitId: string;
  readonly visitId: string | null;
  readonly mapRevision: number;
}

const WORDS: Record<FindingBody["type"], string> = {
  found: "finding",
  changed: "change of a finding",
  answered: "owner's answer",
  mended: "mending",
  accepted: "finding left as it is",
  reopened: "finding opened again",
};

/** Adds an entry to a finding, or begins one: checked here by the same rules as on the server, put aside, sent when it can be. */
export const useFindingEntry = ({ unitId, visitId, mapRevision }: Of) => {
  const { data: me } = useMeQuery();
  const sendLater = useSendLater();
  return useCallback(
    (
      body: z.input<typeof findingBodySchema>,
      about?: FindingOnFile,
      newId = uuid(),
    ): string | undefined => {
      const parsed = findingBodySchema.safeParse(body);
      if (!parsed.success) return parsed.error.issues.map((i) => i.message).join("; ");
      const id = about ? uuid() : newId;
      const at = new Date().toISOString();
      const next = addToFinding(about, { id, at, by: me?.person.name ?? "", body: parsed.data });
      if (!next.ok) return next.problem;
      void sendLater({
        id,
        unitId,
        kind: "finding",
        findingId: about?.id ?? id,
        url: `/units/${unitId}/findings/${about?.id ?? id}`,
        body: { id, at, body: parsed.data, visitId, mapRevision },
        what: `${WORDS[body.type]}: ${next.finding.what}`,
        at,
      });
      return undefined;
    },
    [me, sendLater, unitId, visitId, mapRevision],
  );
};
