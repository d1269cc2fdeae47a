import type { FindingOnFile, Reading, RegisteredPart, Unit, Visit } from "@uppershed/contract";
import { CONDITION_LABELS, usualLife } from "@uppershed/core/formats";
import {
  againstHistory,
  ANODE_POINT,
  isComparable,
  NEW_ROD_M,
  rodVerdict,
  serviceDue,
  type ServiceVerdict,
  VISIT_STATE_LABELS,
} from "@uppershed/core/inspection";
import { type WaterMap } from "@uppershed/core/watermap";
import { Tabs } from "radix-ui";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { Link } from "react-router";
import { FindingForm } from "../../findings/finding-form.tsx";
import { FindingList } from "../../findings/finding-list.tsx";
import { FindingSheet } from "../../findings/finding-sheet.tsx";
import { uuid } from "../../device/uuid.ts";
import { problemText, useAddPaperMutation, usePapersQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useRule } from "../../planning/use-rule.ts";
import { readingText } from "../../ui/reading-text.ts";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";

// A chart weighs more than all the rest of the screen: it comes when it is looked at.
const WearLine = lazy(async () => ({ default: (await import("./wear-line.tsx")).WearLine }));

const Visits = ({ visits, unitId }: { visits: readonly Visit[]; unitId: string }) => (
  <>
    <Link
      to={`/visits/new?unit=${unitId}`}
      className="mb-2 inline-flex min-h-11 items-center rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
    >
      Book a visit
    </Link>
    <ul>
      {visits.map((v) => (
        <li key={v.id} className="border-t border-line">
          <Link
            to={`/visits/${v.id}`}
            className="block min-h-11 py-1 text-[14px] hover:bg-green-soft"
          >
            <b>{dayOf(v.startsAt)}</b> {v.asked}{" "}
            <span className="text-muted">({VISIT_STATE_LABELS[v.state]})</span>
            {v.ownerSaid && <q className="block italic text-muted">{v.ownerSaid}</q>}
          </Link>
        </li>
      ))}
    </ul>
    {visits.length === 0 && <p className="text-[14px] text-muted">No visits yet.</p>}
  </>
);

/** How the newest of a line stands to those before it. */
const Departs = ({ readings: [last, ...before] }: { readings: readonly Reading[] }) => {
  const limit = Number(useRule("reading.departure"));
  if (!last || !isComparable(last.dimension)) return null;
  const found = againstHistory(last.value, before, limit);
  if (found?.departs !== true || found.share === undefined) return null;
  return (
    <p className="text-[13.5px] text-rust">
      {found.share > 0 ? "More" : "Less"} than the {found.of} before it by{" "}
      {Number.isFinite(found.share) ? `${Math.round(Math.abs(found.share) * 100)} %` : "all"}.
    </p>
  );
};

/** Readings that belong together under one key, the newest first; a line where there are several. */
const Readings = ({ readings }: { readings: readonly Reading[] }) => {
  const { system } = useUnits();
  const [words, setWords] = useState("");
  const wanted = words.trim().toLowerCase();
  const groups = new Map<string, Reading[]>();
  for (const r of readings)
    if (r.label.toLowerCase().includes(wanted))
      groups.set(r.key, [...(groups.get(r.key) ?? []), r]);
  return (
    <>
      <input
        className="field mb-2 w-full"
        aria-label="Find a reading"
        placeholder="find a reading"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <ul>
        {[...groups.values()].map((of) => {
          const [last] = of;
          if (!last) return null;
          return (
            <li key={last.key} className="border-t border-line py-1 text-[14px]">
              <details>
                <summary className="min-h-9 content-center">
                  {last.label}: <b>{readingText(last, system)}</b>{" "}
                  <span className="text-muted">
                    (measured{last.method && `, ${last.method}`}
                    {last.instrument && ` with ${last.instrument}`}; {dayOf(last.at)})
                  </span>
                </summary>
                <Departs readings={of} />
                <Suspense fallback={<div className="h-28" />}>
                  <WearLine readings={of} />
                </Suspense>
                <ul className="pl-3">
                  {of.map((r) => (
                    <li key={r.id}>
                      {dayOf(r.at)}: {readingText(r, system)}{" "}
                      <span className="text-muted">{r.by}</span>
                    </li>
                  ))}
                </ul>
              </details>
            </li>
          );
        })}
      </ul>
      {groups.size === 0 && (
        <p className="text-[14px] text-muted">No readings{wanted ? " of that name" : " yet"}.</p>
      )}
    </>
  );
};

/** What wears, and when it is due, each with its working. */
const Wear = ({
  map,
  register,
  readings,
  today,
}: {
  map: WaterMap;
  register: readonly RegisteredPart[];
  readings: readonly Reading[];
  today: string;
}) => {
  /** Hours run or litres passed, and how many there are to be, where both were read. */
  const usedOf = (partId: string) => {
    const used = readings.find((r) => r.partId === partId && r.kind === "use");
    const life = readings.find((r) => r.partId === partId && r.kind === "use-life");
    if (!used || !life) return {};
    const [unit, by] =
      used.dimension === "minutes" ? (["h", 1 / 60] as const) : (["L", 1000] as const);
    return {
      use: {
        unit,
        life: Math.round(life.value * by),
        used: Math.round(used.value * by),
        on: used.at,
      },
    };
  };
  /** A rod goes by its thickness, where enough readings tell how it wears. */
  const rodOf = (part: RegisteredPart): ServiceVerdict | undefined => {
    if (part.item !== "anode") return undefined;
    const taken = new Map<string, number[]>();
    for (const r of readings)
      if (r.partId === part.partId && r.spot === ANODE_POINT)
        taken.set(r.at, [...(taken.get(r.at) ?? []), r.value]);
    const { fittedOn } = part.life;
    const verdict = rodVerdict(
      { newM: NEW_ROD_M, ...(fittedOn ? { fittedOn } : {}) },
      [...taken].map(([on, thicknessM]) => ({ on, thicknessM })),
    );
    return verdict.ok
      ? { ok: true, dueOn: verdict.renewBy, by: "use", working: verdict.working }
      : undefined;
  };
  const share = Number(useRule("life.share"));
  /** What is written on the part, or what its kind usually serves, by the house's share of it. */
  const lifeOf = (p: RegisteredPart): { months: number | null; assumed: boolean } => {
    if (p.life.expectedLifeMonths !== null)
      return { months: p.life.expectedLifeMonths, assumed: false };
    const part = map.parts.find((m) => m.id === p.partId);
    const usual = part && usualLife(part, p.item);
    return { months: usual === undefined ? null : Math.round(usual * share), assumed: true };
  };
  const rows = register
    .filter((p) => p.life.fittedOn !== null || p.life.expectedLifeMonths !== null)
    .map((p) => ({
      part: p,
      verdict:
        rodOf(p) ??
        serviceDue({
          fittedOn: p.life.fittedOn,
          lifeMonths: lifeOf(p).months,
          ...usedOf(p.partId),
        }),
    }))
    .toSorted((a, b) =>
      (a.verdict.ok ? a.verdict.dueOn : "9").localeCompare(b.verdict.ok ? b.verdict.dueOn : "9"),
    );
  return (
    <>
      <ul>
        {rows.map(({ part, verdict }) => (
          <li key={`${part.partId}/${part.item}`} className="border-t border-line py-1 text-[14px]">
            <details>
              <summary className="min-h-9 content-center">
                {part.name}
                {part.item && `, ${part.item}`}:{" "}
                {verdict.ok ? (
                  <b className={verdict.dueOn <= today ? "text-rust" : ""}>
                    {verdict.dueOn <= today ? "due since" : "due"} {dayOf(verdict.dueOn)}
                  </b>
                ) : (
                  <span className="text-muted">not enough readings</span>
                )}
              </summary>
              <p className="pl-3">
                {verdict.ok
                  ? `${verdict.working.join("; ")} (${lifeOf(part).assumed ? "the usual life of its kind, assumed" : "worked out"})`
                  : verdict.problem}
                {part.life.condition !== "not-looked-at" &&
                  `; condition: ${CONDITION_LABELS[part.life.condition]}`}
              </p>
            </details>
          </li>
        ))}
      </ul>
      {rows.length === 0 && (
        <p className="text-[14px] text-muted">Nothing is known yet of when parts were fitted.</p>
      )}
      <Link
        to="/parts"
        className="mt-2 inline-flex min-h-11 items-center text-[14px] text-green underline"
      >
        The parts register
      </Link>
    </>
  );
};

const Papers = ({ unitId }: { unitId: string }) => {
  const { data = [] } = usePapersQuery(unitId);
  const [add, adding] = useAddPaperMutation();
  const [title, setTitle] = useState("");
  return (
    <>
      <ul>
        {data.map((p) => (
          <li key={p.id} className="border-t border-line text-[14px]">
            <a
              href={`/api/documents/${p.id}`}
              download={`${p.title}.pdf`}
              className="flex min-h-11 items-center gap-2 hover:bg-green-soft"
            >
              <b className="text-green underline">{p.title}</b>
              <span className="text-muted">
                {Math.ceil(p.bytes / 1024)} kB, {dayOf(p.at)}, {p.by}
              </span>
            </a>
          </li>
        ))}
      </ul>
      {data.length === 0 && (
        <p className="text-[14px] text-muted">
          No papers yet: makers' sheets, certificates, as PDF.
        </p>
      )}
      <label className="mt-3 block text-[14px] font-semibold">
        What it is
        <input
          className="field mt-1 w-full font-normal"
          maxLength={120}
          value={title}
          onChange={(e) => setTitle(e.target.value)}
        />
      </label>
      <label className="mt-2 block text-[14px] font-semibold">
        Its PDF file
        <input
          type="file"
          accept="application/pdf"
          disabled={title.trim() === "" || adding.isLoading}
          className="mt-1 block min-h-11 w-full font-normal"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file)
              void add({ unitId, id: uuid(), title: title.trim(), file }).then((reply) =>
                reply.error ? undefined : setTitle(""),
              );
          }}
        />
      </label>
      {adding.error && (
        <p role="alert" className="text-[14px] text-rust">
          {problemText(adding.error)}
        </p>
      )}
    </>
  );
};

const TABS = ["Frost", "Findings", "Visits", "Readings", "Wear", "Papers"] as const;

/** Beside the map: everything that is kept of the unit. */
export const Drawer = ({
  unit,
  map,
  frost,
  findings,
  visits,
  readings,
  register,
  today,
}: {
  unit: Unit;
  map: WaterMap;
  frost: ReactNode;
  findings: readonly FindingOnFile[];
  visits: readonly Visit[];
  readings: readonly Reading[];
  register: readonly RegisteredPart[];
  today: string;
}) => {
  const [open, setOpen] = useState<FindingOnFile | "new">();
  const of = { unitId: unit.id, visitId: null, mapRevision: unit.mapRevision };
  const opened =
    typeof open === "object" ? (findings.find((f) => f.id === open.id) ?? open) : undefined;
  const stand = findings.filter((f) => f.state !== "mended").length;
  const past = findings.filter((f) => f.state === "mended");
  const bodies: Record<(typeof TABS)[number], ReactNode> = {
    Frost: frost,
    Findings: (
      <>
        <Button className="mb-2" onClick={() => setOpen("new")}>
          A finding
        </Button>
        <FindingList findings={findings.filter((f) => f.state !== "mended")} onOpen={setOpen} />
        {findings.length === 0 && <p className="text-[14px] text-muted">Nothing was ever found.</p>}
        {past.length > 0 && (
          <details>
            <summary className="min-h-11 content-center text-[14px]">{past.length} mended</summary>
            <FindingList findings={past} onOpen={setOpen} />
          </details>
        )}
      </>
    ),
    Visits: <Visits visits={visits} unitId={unit.id} />,
    Readings: <Readings readings={readings} />,
    Wear: <Wear map={map} register={register} readings={readings} today={today} />,
    Papers: <Papers unitId={unit.id} />,
  };
  return (
    <>
      <Tabs.Root defaultValue="Frost" className="flex h-full min-h-0 flex-col">
        <Tabs.List
          aria-label="Kept of the unit"
          className="grid shrink-0 grid-cols-3 border-b border-line bg-green-soft"
        >
          {TABS.map((tab) => (
            <Tabs.Trigger
              key={tab}
              value={tab}
              className="min-h-11 px-2 text-[14px] lg:min-h-9 data-[state=active]:bg-paper data-[state=active]:font-bold"
            >
              {tab}
              {tab === "Findings" && stand > 0 && ` (${stand})`}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {TABS.map((tab) => (
          <Tabs.Content
            key={tab}
            value={tab}
            className={`min-h-0 flex-1 overflow-auto ${tab === "Frost" ? "" : "p-3"}`}
          >
            {bodies[tab]}
          </Tabs.Content>
        ))}
      </Tabs.Root>
      {open === "new" && <FindingForm of={of} map={map} onClose={() => setOpen(undefined)} />}
      {opened && (
        <FindingSheet of={of} finding={opened} map={map} onClose={() => setOpen(undefined)} />
      )}
    </>
  );
};
