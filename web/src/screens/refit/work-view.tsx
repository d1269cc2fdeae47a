import { adopt as adoptPieces, heldOpen, WORK_STATES, type WorkState } from "@uppershed/core/refit";
import { surveyMap } from "@uppershed/core/survey";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import type { Halo } from "../../drawing/pipes.tsx";
import { useDrawn } from "../../mapping/use-drawn.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { sumOf, type WorkItem, workItems } from "../../refitting/work.ts";
import { problemText, useAdoptOfRefitMutation, useTestsOfUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital, dayOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";
import { Cures, OpenEnds } from "./waits.tsx";

const TONE: Readonly<Record<WorkState, Halo["tone"]>> = {
  planned: "standing",
  cut: "section",
  installed: "changed",
  tested: "reach",
  closed: "added",
};
const MARK: Readonly<Record<WorkState, string>> = {
  planned: "…",
  cut: "cut",
  installed: "in",
  tested: "✓",
  closed: "▣",
};

/** How far each pipe and part has come, on the drawing of what is to be. */
const OnMap = ({ of, items }: { of: OfRefit; items: readonly WorkItem[] }) => {
  const { proposed } = of.here;
  const drawn = useDrawn(proposed);
  const halos = useMemo(
    () =>
      new Map<string, Halo>(
        items.flatMap(({ id, state, goes }) =>
          goes ? [] : [[id, { tone: TONE[state], text: MARK[state] }] as const],
        ),
      ),
    [items],
  );
  return (
    <div className="relative h-[46dvh] min-h-[300px] overflow-hidden rounded border border-line">
      {drawn ? (
        <MapDrawing
          network={drawn.network}
          scene={drawn.scene}
          halos={halos}
          legend={
            <p className="rounded bg-paper/90 px-2 py-1 text-[13px]">
              … planned, <b>cut</b>, <b>in</b> place, <b>✓</b> tested, <b>▣</b> closed
            </p>
          }
        />
      ) : (
        <Waiting />
      )}
    </div>
  );
};

/** What is chosen comes a step further; what is tested names the test that proves it. */
const Further = ({
  of,
  chosen,
  onDone,
}: {
  of: OfRefit;
  chosen: readonly string[];
  onDone: () => void;
}) => {
  const enter = useRefitEntry(of.unitId, of.refitId);
  const { data: tests = [] } = useTestsOfUnitQuery(of.unitId);
  const passed = tests.filter((t) => t.outcome === "tight" && !t.openedSince);
  const [testId, setTest] = useState("");
  const [problem, setProblem] = useState<string>();
  const say = async (state: WorkState): Promise<void> => {
    const test = passed.find((t) => t.id === testId) ?? passed[0];
    const why = await enter({
      type: "work",
      of: [...chosen],
      state,
      ...(state === "tested" && test ? { testId: test.id } : {}),
    });
    setProblem(why);
    if (why === undefined) onDone();
  };
  return (
    <div
      role="group"
      aria-label="How far it has come"
      className="my-3 border-l-4 border-green bg-green-soft p-3"
    >
      <p className="font-semibold">
        {chosen.length === 0 ? "Choose what has come further." : `${chosen.length} chosen:`}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {WORK_STATES.map((s) => (
          <Button
            key={s}
            disabled={chosen.length === 0 || (s === "tested" && passed.length === 0)}
            onClick={() => void say(s)}
          >
            {capital(s)}
          </Button>
        ))}
      </div>
      {passed.length > 0 ? (
        <label className="mt-2 block text-[14px]">
          Tested by{" "}
          <select
            className="field"
            value={testId || (passed[0]?.id ?? "")}
            onChange={(e) => setTest(e.target.value)}
          >
            {passed.map((t) => (
              <option key={t.id} value={t.id}>
                {dayOf(t.at)}, {t.title}
              </option>
            ))}
          </select>
        </label>
      ) : (
        <p className="mt-2 text-[14px]">
          No pressure test of this unit has passed yet:{" "}
          <Link className="text-green underline" to={`/units/${of.unitId}/tests`}>
            plan one
          </Link>{" "}
          when it is on the unit&apos;s map.
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </div>
  );
};

/** Panels and walls that may not be closed before all behind them has been tested. */
const HoldPoints = ({ of, chosen }: { of: OfRefit; chosen: readonly string[] }) => {
  const enter = useRefitEntry(of.unitId, of.refitId);
  const [what, setWhat] = useState("");
  const [problem, setProblem] = useState<string>();
  const { refit } = of.here.onFile;
  const open = new Set(heldOpen(refit).map((h) => h.what));
  return (
    <section aria-label="What stays open" className="mt-4">
      <h2 className="text-[16px] font-bold">What stays open until it was tested</h2>
      <ul>
        {refit.holdPoints.map((h) => (
          <li key={h.what} className="border-t border-line py-1.5 text-[14px]">
            <b className={open.has(h.what) ? "text-rust" : "text-green"}>
              {open.has(h.what) ? "Stays open" : "May be closed"}
            </b>
            : {h.what} ({h.at.length} behind it)
          </li>
        ))}
      </ul>
      {of.mayWork && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Field
            label="A panel, wall or floor before what is chosen"
            maxLength={120}
            value={what}
            onChange={(e) => setWhat(e.target.value)}
          />
          <Button
            disabled={what.trim() === "" || chosen.length === 0}
            onClick={() =>
              void enter({ type: "hold-point", what, at: [...chosen] }).then((why) => {
                setProblem(why);
                if (why === undefined) setWhat("");
              })
            }
          >
            Keep it open
          </Button>
        </div>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};

/** What is installed goes onto the unit's own map, piece by piece; the rest stays proposed. */
const Adopt = ({ of }: { of: OfRefit }) => {
  const { here, unitId, refitId } = of;
  const [adopt, adopting] = useAdoptOfRefitMutation();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<string>();
  const pieces = here.pieces.filter((p) => chosen.has(p.id)).map((p) => p.id);
  // What stands when only these are in: not to be used before it is sound.
  const half = useMemo(() => {
    const ids = here.pieces.filter((p) => chosen.has(p.id)).map((p) => p.id);
    if (ids.length === 0 || ids.length === here.pieces.length) return [];
    const done = adoptPieces(here.today, here.proposed, ids);
    if (!done.ok) return [done.problem];
    const before = new Set(surveyMap(here.today).problems.map((p) => p.message));
    return surveyMap(done.map).problems.flatMap((p) =>
      (p.severity === "wrong" || p.severity === "guard") && !before.has(p.message)
        ? [p.message]
        : [],
    );
  }, [here, chosen]);
  const { text } = useUnits();
  if (here.pieces.length === 0) return null;
  const go = async (): Promise<void> => {
    const reply = await adopt({
      unitId,
      refitId,
      asked: { id: uuid(), at: new Date().toISOString(), pieces, basedOn: here.revision },
    });
    setProblem(reply.error ? problemText(reply.error) : undefined);
    if (!reply.error) setChosen(new Set());
  };
  return (
    <section aria-label="Onto the unit's map" className="mt-4">
      <h2 className="text-[16px] font-bold">Installed: onto the unit&apos;s map</h2>
      <p className="text-[14px] text-muted">
        What must go in together is one piece. What is put on the map is part of the unit from then
        on: tested, winterized and kept like all else.
      </p>
      <ul>
        {here.pieces.map((p) => (
          <li key={p.id} className="border-t border-line">
            <label className="flex min-h-11 items-center gap-3 text-[15px]">
              <input
                type="checkbox"
                className="size-6 shrink-0"
                checked={chosen.has(p.id)}
                onChange={() =>
                  setChosen((now) => {
                    const then = new Set(now);
                    if (!then.delete(p.id)) then.add(p.id);
                    return then;
                  })
                }
              />
              {capital(p.name)}
            </label>
          </li>
        ))}
      </ul>
      {half.length > 0 && (
        <div className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          <b>Half-way like this it is not to be put back into use:</b>
          <ul className="ml-5 list-disc">
            {half.map((h) => (
              <li key={h}>{text(h)}</li>
            ))}
          </ul>
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          look="act"
          big
          disabled={pieces.length === 0 || adopting.isLoading}
          onClick={() => void go()}
        >
          Put {pieces.length} on the unit&apos;s map
        </Button>
        <Button onClick={() => setChosen(new Set(here.pieces.map((p) => p.id)))}>Choose all</Button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};

/** The work on the drawing: planned, cut, installed, tested, closed, by pipe and part; hold points; what goes onto the map. */
export const WorkView = (of: OfRefit & { mayDraw: boolean }) => {
  const { here, mayWork, mayDraw } = of;
  const { q } = useUnits();
  const items = useMemo(() => workItems(here), [here]);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const stays = items.filter((i) => !i.goes);
  const chosen = stays.filter((i) => picked.has(i.id)).map((i) => i.id);
  const sum = sumOf(items);
  if (stays.length === 0)
    return <p className="my-3 text-muted">Nothing is to be installed yet: draw what is to be.</p>;
  const toggle = (ids: readonly string[], on: boolean): void =>
    setPicked((now) => {
      const then = new Set(now);
      for (const id of ids) {
        if (on) then.add(id);
        else then.delete(id);
      }
      return then;
    });
  return (
    <div className="grid gap-x-8 lg:grid-cols-[minmax(0,1fr)_420px]">
      <div>
        <p className="my-2 text-[15px]" role="status">
          {sum.all.every((s) => s.count === 0)
            ? `Nothing is cut yet: ${sum.of} parts and pipes${sum.lengthM > 0 ? `, ${q(sum.lengthM, "length")} of pipe` : ""}`
            : sum.all
                .filter((s) => s.count > 0)
                .map(
                  (s) =>
                    `${s.count} of ${sum.of} ${s.state}${sum.lengthM > 0 ? `, ${q(s.lengthM, "length")} of ${q(sum.lengthM, "length")} of pipe, ${s.joints} of ${sum.joints} joints` : ""}`,
                )
                .join("; ")}
          .
        </p>
        <OnMap of={of} items={items} />
        <HoldPoints of={of} chosen={chosen} />
        <Cures of={of} chosen={chosen} />
        <OpenEnds of={of} />
        {mayWork && mayDraw && <Adopt of={of} />}
      </div>
      <div>
        {mayWork && <Further of={of} chosen={chosen} onDone={() => setPicked(new Set())} />}
        <ul aria-label="Parts and pipes">
          <li className="border-b border-line">
            <label className="flex min-h-11 items-center gap-3 text-[15px] font-semibold">
              <input
                type="checkbox"
                className="size-6 shrink-0"
                disabled={!mayWork}
                checked={chosen.length === stays.length}
                onChange={(e) =>
                  toggle(
                    stays.map((i) => i.id),
                    e.target.checked,
                  )
                }
              />
              All of it
            </label>
          </li>
          {stays.map((i) => (
            <li key={i.id} className="border-b border-line">
              <label className="flex min-h-11 items-center gap-3 text-[14px]">
                <input
                  type="checkbox"
                  className="size-6 shrink-0"
                  disabled={!mayWork}
                  checked={picked.has(i.id)}
                  onChange={(e) => toggle([i.id], e.target.checked)}
                />
                <span className="min-w-0 flex-1">
                  {capital(i.name)}
                  {i.lengthM !== undefined && (
                    <span className="text-muted"> {q(i.lengthM, "length")}</span>
                  )}
                  {i.isIn && (
                    <span className="block text-[13px] text-muted">on the unit&apos;s map</span>
                  )}
                </span>
                <b className={i.state === "planned" ? "text-muted" : ""}>{i.state}</b>
              </label>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
};
