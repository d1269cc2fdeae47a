import {
  canBeFound,
  type Correction,
  foundAnother,
  type InspectionPoint,
  type InspectionStop,
  isFitted,
  notFitted,
} from "@uppershed/core/inspection";
import { PART_KINDS, type WaterMap } from "@uppershed/core/watermap";
import { useState } from "react";
import { problemText, useSaveMapMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";

export type Wish =
  | { readonly type: "not-fitted"; readonly point: InspectionPoint }
  | { readonly type: "is fitted"; readonly point: InspectionPoint }
  | { readonly type: "found another"; readonly stop: InspectionStop };

const FOUND_KINDS = [...PART_KINDS.values()]
  .filter((k) => canBeFound(k.group))
  .toSorted((a, b) => (a.label < b.label ? -1 : 1));

const TITLES = {
  "not-fitted": "Take it off the map?",
  "is fitted": "It is there",
  "found another": "Found another",
} as const;

/** A mark that corrects the map: shown first, then kept as the unit's next revision. */
export const CorrectSheet = ({
  wish,
  map,
  revision,
  unitId,
  onClose,
}: {
  wish: Wish;
  map: WaterMap;
  revision: number;
  unitId: string;
  onClose: (said?: string) => void;
}) => {
  const [save, saving] = useSaveMapMutation();
  const near =
    wish.type === "found another"
      ? [...new Map(wish.stop.points.map((p) => [p.partId, p.name]))]
      : [];
  const [kind, setKind] = useState(FOUND_KINDS[0]?.kind ?? "");
  const [name, setName] = useState("");
  const [beside, setBeside] = useState(near[0]?.[0] ?? "");
  const [problem, setProblem] = useState<string>();
  const corrected = (): Correction => {
    if (wish.type === "found another")
      return foundAnother(map, { partId: beside }, kind, name.trim() || undefined);
    const partId = wish.point.partId ?? "";
    return wish.type === "not-fitted" ? notFitted(map, partId) : isFitted(map, partId);
  };
  const keep = async (): Promise<void> => {
    const correction = corrected();
    if (!correction.ok) return setProblem(correction.problem);
    setProblem(undefined);
    const reply = await save({
      id: unitId,
      asked: { basedOn: revision, why: correction.why, document: correction.map },
    });
    if (!reply.error) onClose(`${correction.why}. Map revision ${reply.data.revision}.`);
  };
  return (
    <Sheet open onClose={() => onClose()} title={TITLES[wish.type]}>
      {wish.type === "not-fitted" && (
        <p>
          <b>{wish.point.name}</b> is on the map and not on the unit. Taken off, the pipe goes on
          where it stood; the map becomes revision {revision + 1}, and the one before can be looked
          at.
        </p>
      )}
      {wish.type === "is fitted" && (
        <p>
          <b>{wish.point.name}</b> has been seen. It is no longer in doubt, and what rests on it can
          be told. The map becomes revision {revision + 1}.
        </p>
      )}
      {wish.type === "found another" && (
        <div className="space-y-3">
          <label className="block text-[15px] font-semibold">
            What is it?
            <select
              className="field mt-1 w-full font-normal"
              value={kind}
              onChange={(e) => setKind(e.target.value)}
            >
              {FOUND_KINDS.map((k) => (
                <option key={k.kind} value={k.kind}>
                  {k.label}
                </option>
              ))}
            </select>
          </label>
          <label className="block text-[15px] font-semibold">
            Beside
            <select
              className="field mt-1 w-full font-normal"
              value={beside}
              onChange={(e) => setBeside(e.target.value)}
            >
              {near.map(([id, label]) => (
                <option key={id ?? ""} value={id ?? ""}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          <label className="block text-[15px] font-semibold">
            Its name, if it has one
            <input
              className="field mt-1 w-full font-normal"
              maxLength={60}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <p className="text-[14px] text-muted">
            It goes onto the longest pipe there; its exact place can be drawn on the map bench.
          </p>
        </div>
      )}
      {(problem ?? saving.error) && (
        <p role="alert" className="mt-2 text-rust">
          {problem ?? problemText(saving.error)}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="act" big disabled={saving.isLoading} onClick={() => void keep()}>
          {wish.type === "not-fitted" ? "Take it off" : "Put it on the map"}
        </Button>
        <Button big onClick={() => onClose()}>
          {wish.type === "not-fitted" ? "Leave the map as it is" : "Back"}
        </Button>
      </div>
    </Sheet>
  );
};
