import type { UnitId } from "@uppershed/contract";
import {
  jointsIn,
  type Joint,
  type PressureTest,
  SOAPED,
  suspectsOf,
  testSections,
} from "@uppershed/core/hold";
import type { Network } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { Link } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { MiniMap } from "../../drawing/mini-map.tsx";
import { useFindingEntry } from "../../findings/use-finding-entry.ts";
import { useSplit } from "../../holding/use-split.ts";
import type { EnterTest } from "../../holding/use-test-entry.ts";
import { useLayout } from "../../mapping/use-chart.ts";
import { Button } from "../../ui/button.tsx";

const SOAP_WORDS = { dry: "dry", bubbles: "bubbles", "not-looked-at": "can't get there" } as const;

/** One joint of the sweep: dry, bubbles, or not to be reached; none is passed over in silence. */
const JointRow = ({
  joint,
  found,
  onFound,
}: {
  joint: Joint;
  found: (typeof SOAPED)[number] | undefined;
  onFound: (found: (typeof SOAPED)[number]) => void;
}) => (
  <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1.5">
    <span className="min-w-0 flex-1 basis-60">
      {joint.label}
      <span className="ml-2 text-[13px] text-muted">
        {[joint.place, joint.access].filter(Boolean).join(", ")}
      </span>
    </span>
    <span role="group" aria-label={joint.label} className="flex gap-1">
      {SOAPED.map((s) => (
        <button
          key={s}
          type="button"
          aria-pressed={found === s}
          onClick={() => onFound(s)}
          className={`min-h-11 rounded border px-3 text-[14px] ${found === s ? (s === "bubbles" ? "border-rust bg-rust text-on-rust" : "border-green bg-green text-on-green") : "border-line"}`}
        >
          {SOAP_WORDS[s]}
        </button>
      ))}
    </span>
  </li>
);

/** From "it leaks" to the joint: which valves to shut so that the next hold halves what is left, then soap on every joint of it. */
export const FindLeak = ({
  network,
  unitId,
  testId,
  visitId,
  mapRevision,
  test,
  enter,
}: {
  network: Network;
  unitId: UnitId;
  testId: string;
  visitId: string | null;
  mapRevision: number;
  test: PressureTest;
  enter: EnterTest;
}) => {
  const layout = useLayout(network.map);
  const say = useFindingEntry({ unitId, visitId, mapRevision });
  const pressed = useMemo(() => new Set(test.plan.cells), [test.plan.cells]);
  const sections = useMemo(() => testSections(network, pressed), [network, pressed]);
  const suspects = useMemo(
    () =>
      suspectsOf(
        sections.map((s) => s.id),
        test,
      ),
    [sections, test],
  );
  const split = useSplit(network.map, test, suspects);
  const toShut = network.controls.filter((c) => split?.shut.includes(c.key));
  const left = sections.filter((s) => suspects.has(s.id));
  const joints = useMemo(
    () => jointsIn(network, new Set(left.flatMap((s) => s.cells))),
    [network, left],
  );
  const lit = new Set(left.flatMap((s) => s.owners));
  const swept = joints.filter((j) => test.soaped[j.id] !== undefined).length;
  const found = (joint: Joint, how: (typeof SOAPED)[number]): void => {
    enter({ type: "soaped", joint: joint.id, found: how }, test);
    if (how !== "bubbles" || test.leakAt) return;
    const findingId = uuid();
    say(
      {
        type: "found",
        what: `Leaks under test: ${joint.label}`,
        severity: "will-fail",
        partId: joint.parts[0] ?? null,
        place: joint.place,
        cause: `Pressure test: ${test.plan.title}`,
      },
      undefined,
      findingId,
    );
    enter({ type: "leak-at", joint: joint.id, label: joint.label, findingId }, test);
  };
  return (
    <section aria-label="Find the leak" className="my-4 border-t-2 border-green pt-3">
      <h2 className="text-[19px] font-bold">
        {test.leakAt
          ? `It leaks at: ${test.leakAt.label}`
          : `${left.length} of ${sections.length} sections may hold the leak, ${joints.length} joints`}
      </h2>
      {layout && (
        <MiniMap
          layout={layout}
          wet={lit}
          label={`${lit.size} parts and pipes may still hold the leak`}
        />
      )}
      {test.leakAt && (
        <p className="my-2">
          It stands as a finding on{" "}
          <Link className="text-green underline" to={`/units/${unitId}`}>
            the unit
          </Link>
          . When it is mended,{" "}
          <Link className="text-green underline" to={`/units/${unitId}/tests?retest=${testId}`}>
            test again
          </Link>
          .
        </p>
      )}
      {!test.leakAt && split && (
        <div className="my-2 border-l-4 border-green bg-green-soft p-3">
          <p className="font-semibold">
            Press again, then shut{" "}
            {toShut.map((c) => `${c.part.tag ? `${c.part.tag} ` : ""}${c.part.name}`).join(" and ")}{" "}
            and watch the gauge.
          </p>
          <p className="text-[14px] text-muted">
            {split.near.length} sections stay with the gauge, {split.far.length} lie beyond.
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            {(
              [
                [true, "It fell"],
                [false, "It held"],
              ] as const
            ).map(([fell, words]) => (
              <Button
                key={words}
                big
                onClick={() =>
                  enter(
                    {
                      type: "parted",
                      shut: [...split.shut],
                      near: [...split.near],
                      far: [...split.far],
                      fell,
                    },
                    test,
                  )
                }
              >
                {words}
              </Button>
            ))}
          </div>
        </div>
      )}
      {!test.leakAt && split === undefined && (
        <p className="my-2 text-muted">Looking which valves part these sections…</p>
      )}
      {!test.leakAt && split === null && suspects.size > 1 && (
        <p className="text-muted">No valve parts these sections any further: soap them all.</p>
      )}
      <h3 className="mt-3 font-bold">
        Soap on every joint of it: {swept} of {joints.length} seen
      </h3>
      <ul aria-label="Joints">
        {joints.map((j) => (
          <JointRow
            key={j.id}
            joint={j}
            found={test.soaped[j.id]}
            onFound={(how) => found(j, how)}
          />
        ))}
      </ul>
    </section>
  );
};
