import type { Visit } from "@uppershed/contract";
import { SNAPSHOT_KIND_LABELS } from "@uppershed/core/inspection";
import { buildNetwork, inUseLineup, type Lineup, type WaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { usePicturesNow, useSnapshotsNow } from "../../sending/on-device.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { controlsOf, LineupForm } from "../../lineup/lineup-form.tsx";
import { PictureButton } from "../../pictures/picture-button.tsx";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import { useBegins } from "../../planning/use-begins.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { uuid } from "../../device/uuid.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useVisitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { ageOf, dayOf, timeOf } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

const ASKS = {
  "as-found": [
    "How was it found?",
    "Walk round once and change what stands otherwise than in use. Nothing is turned yet.",
  ],
  "as-left": [
    "How is it left?",
    "Spring's list is made from this. What was found is shown; change what you leave otherwise.",
  ],
} as const;

const Stand = ({
  visit,
  map,
  revision,
  kind,
}: {
  visit: Visit;
  map: WaterMap;
  revision: number;
  kind: "as-found" | "as-left";
}) => {
  const navigate = useNavigate();
  const sendLater = useSendLater();
  const network = useMemo(() => buildNetwork(map), [map]);
  const snapshots = useSnapshotsNow(visit.unitId, visit.id, network);
  const begins = useBegins(visit.unitId);
  const before =
    snapshots.findLast((s) => s.kind === kind) ??
    (kind === "as-left" ? snapshots.findLast((s) => s.kind === "as-found") : undefined);
  // How it was left last is what should be found now; where it is not, somebody has turned it since. A record signed off on this visit is
  // how it is left now, whatever was found when it came.
  const fromLeft =
    begins &&
    (before === undefined ||
      (kind === "as-left" && before.kind === "as-found" && begins.at > before.at));
  const [typed, setTyped] = useState<Lineup>();
  const [note, setNote] = useState<string>();
  const [id] = useState(uuid);
  const use = inUseLineup(network);
  const lineup = typed ?? { ...use, ...(fromLeft ? begins.lineup : before?.lineup) };
  const words = note ?? (before?.kind === kind ? before.note : "");
  const pictures = usePicturesNow(visit.unitId).filter(
    (p) => p.aboutId === id || snapshots.some((s) => s.kind === kind && s.id === p.aboutId),
  );
  const [title, lead] = ASKS[kind];
  const keep = async (): Promise<void> => {
    const at = new Date().toISOString();
    await sendLater({
      id,
      unitId: visit.unitId,
      kind: "snapshot",
      url: `/visits/${visit.id}/snapshots`,
      body: {
        id,
        kind,
        mapRevision: revision,
        lineup: controlsOf(network, lineup),
        note: words.trim(),
        at,
      },
      what: `${SNAPSHOT_KIND_LABELS[kind]} of ${visit.unitName}`,
      at,
    });
    void navigate(`/visits/${visit.id}`);
  };
  return (
    <div className="mx-auto max-w-3xl p-4 pb-24">
      <InBar>
        <BarLink to={`/visits/${visit.id}`}>
          <b>{visit.unitName}</b>: {visit.asked}
        </BarLink>
      </InBar>
      <h1 className="text-[25px] font-bold leading-tight">{title}</h1>
      <p className="mt-1 text-[15px] text-muted">{lead}</p>
      {before?.kind === kind && (
        <p className="mt-1 text-[15px]">
          Written down {dayOf(before.at)} {timeOf(before.at)} by {before.by}. What you keep now
          stands beside it.
        </p>
      )}
      {fromLeft && (
        <p className="mt-1 border-l-4 border-green bg-green-soft p-2 text-[15px]">
          Shown is how {begins.from === "record" ? "its signed sheet" : "its last visit"} left it{" "}
          {ageOf(begins.at)}.{" "}
          {kind === "as-found"
            ? "Change what stands otherwise: somebody has turned it since."
            : "Change what you leave otherwise."}
        </p>
      )}
      <div className="mt-3">
        <LineupForm
          network={network}
          lineup={lineup}
          against={{ lineup: use, word: "not as in use" }}
          onChange={setTyped}
        />
      </div>
      <label className="mt-4 block text-[15px] font-semibold">
        Note: plugs, cartridges, loose ends, what hangs where
        <textarea
          className="field mt-1 min-h-20 w-full py-2 font-normal"
          maxLength={1000}
          value={words}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      <div className="mt-3">
        <PictureButton
          unitId={visit.unitId}
          about="snapshot"
          aboutId={id}
          label={`Picture, ${SNAPSHOT_KIND_LABELS[kind]}`}
        />
        <PictureStrip pictures={pictures} />
      </div>
      <Button look="act" big className="mt-5 w-full" onClick={() => void keep()}>
        {kind === "as-found" ? "Found so" : "Left so"}
      </Button>
    </div>
  );
};

/** How every valve, cap and end stood when the unit came, or stands as it goes, with pictures. */
export const SnapshotScreen = ({ kind }: { kind: "as-found" | "as-left" }) => {
  const { visitId = "" } = useParams();
  const { data: visit, error } = useVisitQuery(visitId);
  const { map, revision, error: mapError } = useUnitMap(visit?.unitId ?? "");
  useTitle(visit ? `${ASKS[kind][0]} ${visit.unitName}` : ASKS[kind][0]);
  if (!visit || !map) return <Waiting error={error ?? (visit ? mapError : undefined)} />;
  return <Stand visit={visit} map={map} revision={revision} kind={kind} />;
};
