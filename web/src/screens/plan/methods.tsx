import {
  type Method,
  METHODS,
  type MethodCompared,
  type Proposal,
} from "@uppershed/core/procedure";
import type { MapLayout } from "@uppershed/core/watermap";
import { MiniMap } from "../../drawing/mini-map.tsx";
import { placeOn, scaleFor } from "../../frost/ladder-marks.ts";
import { LadderScale, LadderSign } from "../../frost/ladder-scale.tsx";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { clock } from "../../ui/words.ts";

const UPRIGHT_PX = 40;

/** One method's facts under the ladder: what it takes, what it leaves, what spring owes. */
const Facts = ({
  of,
  layout,
  jugPrice,
}: {
  of: MethodCompared;
  layout: MapLayout | undefined;
  jugPrice: number | undefined;
}) => {
  const { q, text, holds } = useUnits();
  return (
    <>
      {layout && (
        <MiniMap
          layout={layout}
          wet={new Set(of.wet.map((w) => w.id))}
          label={
            of.wet.length === 0
              ? `${of.label}: nothing stays wet`
              : `${of.label}: ${of.wet.length} parts and pipes stay wet`
          }
        />
      )}
      <dl className="mt-1 space-y-1.5 text-[13.5px]">
        <div>
          <dt className="text-muted">Antifreeze</dt>
          <dd>
            {of.antifreeze.p90M3 === 0 ? (
              "none"
            ) : (
              <>
                <b>
                  {of.antifreeze.jugs} jug{of.antifreeze.jugs === 1 ? "" : "s"}
                </b>
                : {q(of.antifreeze.medianM3, "volume")} in half the jobs,{" "}
                {q(of.antifreeze.p90M3, "volume")} in 9 of 10
                {jugPrice !== undefined && (
                  <span className="block text-muted">
                    {(of.antifreeze.jugs * jugPrice).toFixed(2)} by the price in the kit
                  </span>
                )}
              </>
            )}
          </dd>
        </div>
        <div>
          <dt className="text-muted">Time</dt>
          <dd>
            <b>{clock(of.minutes)}</b> h, {of.steps} steps
          </dd>
        </div>
        {of.wet.length > 0 && (
          <div>
            <dt className="text-muted">Stays wet</dt>
            <dd>
              <ul className="list-disc pl-4">
                {of.wet.slice(0, 3).map((w) => (
                  <li key={w.id}>
                    {w.name}, to {holds(w.holdsToC)}
                  </li>
                ))}
                {of.wet.length > 3 && <li>and {of.wet.length - 3} more</li>}
              </ul>
            </dd>
          </div>
        )}
        {of.cannotTell > 0 && (
          <div>
            <dt className="text-muted">Cannot tell</dt>
            <dd>{of.cannotTell} parts, until what is not known is looked at</dd>
          </div>
        )}
        <div>
          <dt className="text-muted">Spring owes</dt>
          <dd>
            <ul className="list-disc pl-4">
              {of.spring.map((s) => (
                <li key={s}>{text(s)}</li>
              ))}
            </ul>
          </dd>
        </div>
        <div>
          <dt className="text-muted">Tools</dt>
          <dd>
            <details>
              <summary className="min-h-6">{of.tools.length} to carry</summary>
              <ul className="list-disc pl-4">
                {of.tools.map((t) => (
                  <li key={t}>{text(t)}</li>
                ))}
              </ul>
            </details>
          </dd>
        </div>
      </dl>
    </>
  );
};

/** Every method side by side on one frost ladder, each with what it takes and what it leaves wet. */
export const Methods = ({
  all,
  problem,
  chosen,
  proposal,
  winterLowC,
  layout,
  jugPrice,
  onChoose,
}: {
  all: readonly MethodCompared[];
  /** Why one of them could not be worked out. */
  problem: string | undefined;
  chosen: Method;
  proposal: Proposal | undefined;
  winterLowC: number;
  layout: MapLayout | undefined;
  /** What a jug costs, in the workshop's own money, where the kit says it. */
  jugPrice: number | undefined;
  onChoose: (method: Method) => void;
}) => {
  const { holds } = useUnits();
  const scale = scaleFor(
    all.flatMap((m) => m.holdsToC ?? []),
    winterLowC,
  );
  const proposed = all.find((m) => m.method === proposal?.method);
  const columns = { gridTemplateColumns: `repeat(${METHODS.length}, minmax(0, 1fr))` };
  return (
    <section aria-label="Methods" className="min-w-[900px] px-4 pb-10 pt-3">
      <p className="text-[15px]" aria-live="polite">
        {problem ? (
          `Only ${all.length} of ${METHODS.length} methods could be worked out: ${problem}`
        ) : all.length < METHODS.length ? (
          `Working out ${METHODS.length} methods: ${all.length} done …`
        ) : proposed && proposal ? (
          <>
            <b>{proposed.label}</b> is proposed: {proposal.reason}.
          </>
        ) : (
          "Nothing can be proposed for this map."
        )}
      </p>
      <div className="relative mt-2 h-[230px]">
        <LadderScale scale={scale} winterLowC={winterLowC} leftPx={UPRIGHT_PX} threads={[]} />
        <ul
          className="absolute inset-y-0 right-0 grid"
          style={{ ...columns, left: UPRIGHT_PX + 8 }}
        >
          {METHODS.map(({ method, label }) => {
            const of = all.find((m) => m.method === method);
            if (!of) return <li key={method} aria-hidden className="border-r border-line" />;
            const at = of.holdsToC === null ? 1 : placeOn(scale, of.holdsToC);
            const bad = of.holdsToC !== null && of.holdsToC > winterLowC;
            return (
              <li
                key={method}
                className="relative border-r border-line"
                aria-label={`${label}: holds to ${holds(of.holdsToC)}, ${bad ? "not enough for the winter low" : "below the winter low"}`}
              >
                <LadderSign at={at} bad={bad} leftPx={24} />
                <span
                  aria-hidden
                  className={`absolute left-9 -translate-y-1/2 text-[14px] font-bold ${bad ? "text-rust" : "text-green"}`}
                  style={{ top: `${at * 100}%` }}
                >
                  {holds(of.holdsToC)}
                  {of.cannotTell > 0 && " ?"}
                </span>
              </li>
            );
          })}
        </ul>
      </div>
      <div className="grid" style={{ ...columns, marginLeft: UPRIGHT_PX + 8 }}>
        {METHODS.map(({ method, label }) => {
          const of = all.find((m) => m.method === method);
          const isChosen = method === chosen;
          return (
            <article
              key={method}
              aria-label={label}
              aria-current={isChosen ? "true" : undefined}
              className={`border-r border-line px-2 pt-2 ${isChosen ? "border-t-4 border-t-green bg-green-soft" : "border-t-4 border-t-transparent"}`}
            >
              <h2 className="text-[15px] font-bold leading-tight">
                {label}
                {method === proposal?.method && (
                  <span className="block text-[12.5px] font-semibold text-green">proposed</span>
                )}
              </h2>
              {of?.sameAs && <p className="mt-1 text-[13px] text-muted">{of.sameAs}</p>}
              {of?.cannot && !of.sameAs && (
                <p className="mt-1 border-l-4 border-rust bg-rust-soft px-1.5 py-1 text-[13px]">
                  {of.cannot}
                </p>
              )}
              <Button
                className="my-2 w-full"
                look={method === proposal?.method && !isChosen ? "act" : "plain"}
                disabled={isChosen || !of}
                onClick={() => onChoose(method)}
              >
                {isChosen ? "This is planned" : "Plan with this"}
              </Button>
              {of && !of.sameAs && <Facts of={of} layout={layout} jugPrice={jugPrice} />}
            </article>
          );
        })}
      </div>
    </section>
  );
};
