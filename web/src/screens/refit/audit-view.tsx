import { methodLabel, type RunSetup } from "@uppershed/core/procedure";
import {
  type Audit,
  type AuditSettings,
  type BesideLine,
  besideOf,
  habitsSchema,
  methodFor,
  savingOf,
} from "@uppershed/core/refit";
import { useMemo, useState } from "react";
import { jugPriceOf } from "../../planning/house.ts";
import { useAudit } from "../../refitting/use-audit.ts";
import { useKitQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { HabitsForm } from "./habits-form.tsx";
import type { OfRefit } from "./of-refit.ts";

const SIGN: Readonly<Record<BesideLine["change"], { sign: string; word: string; look: string }>> = {
  better: { sign: "▲", word: "better", look: "font-semibold text-green" },
  worse: { sign: "▼", word: "worse", look: "font-semibold text-rust" },
  same: { sign: "=", word: "the same", look: "text-muted" },
  other: { sign: "~", word: "other", look: "" },
};

const Line = ({ line }: { line: BesideLine }) => {
  const { text } = useUnits();
  const { sign, word, look } = SIGN[line.change];
  return (
    <>
      <tr className="border-t border-line align-top">
        <th scope="row" className="py-1.5 pr-3 text-left font-normal">
          {text(line.label)}
        </th>
        <td className="py-1.5 pr-3 tabular-nums">{text(line.before)}</td>
        <td className="py-1.5 pr-3 tabular-nums">{text(line.after)}</td>
        <td className={`whitespace-nowrap py-1.5 ${look}`}>
          <span aria-hidden>{sign}</span> {word}
        </td>
      </tr>
      {line.gone.length + line.come.length > 0 && (
        <tr>
          <td colSpan={4} className="pb-2 pl-4 text-[13px] text-muted">
            {line.gone.map((g) => (
              <span key={`gone ${g}`} className="block">
                no longer: {text(g)}
              </span>
            ))}
            {line.come.map((g) => (
              <span key={`come ${g}`} className="block text-rust">
                new: {text(g)}
              </span>
            ))}
          </td>
        </tr>
      )}
    </>
  );
};

/** What the change saves each autumn by the house's method, and when it has paid for itself. */
const Saved = ({
  before,
  after,
  setup,
  here,
}: {
  before: Parameters<typeof savingOf>[0];
  after: Parameters<typeof savingOf>[1];
  setup: RunSetup;
  here: OfRefit["here"];
}) => {
  const { q } = useUnits();
  const { data: kit } = useKitQuery();
  const { cost, hour } = here.onFile.refit;
  const jug = jugPriceOf(kit?.kit ?? [], setup);
  const saving = savingOf(before, after, methodFor(after, setup.method), { jug, hour, cost });
  if (!saving) return null;
  const than = (value: number, words: string): string => `${words} ${value > 0 ? "less" : "more"}`;
  const parts = [
    ...(Math.abs(saving.antifreezeM3) > 5e-5
      ? [than(saving.antifreezeM3, `${q(Math.abs(saving.antifreezeM3), "volume")} of antifreeze`)]
      : []),
    ...(saving.jugs === 0
      ? []
      : [
          than(
            saving.jugs,
            `${Math.abs(saving.jugs)} ${Math.abs(saving.jugs) === 1 ? "jug" : "jugs"}`,
          ),
        ]),
    ...(Math.round(saving.minutes) === 0
      ? []
      : [than(saving.minutes, `${Math.abs(Math.round(saving.minutes))} min`)]),
  ];
  return (
    <p className="my-3 border-l-4 border-green bg-green-soft p-3 text-[15px]">
      Each autumn, winterized by &quot;{methodLabel(saving.method).toLowerCase()}&quot;:{" "}
      {parts.length === 0 ? "neither less nor more" : parts.join(", ")}
      {saving.money === null
        ? ". In money: wants the price of a jug in the kit, or of an hour."
        : `: ${Math.abs(saving.money).toFixed(2)} a year ${saving.money >= 0 ? "saved" : "more"}${saving.paysBackYears === null ? "" : `, back after ${saving.paysBackYears.toFixed(1)} years`}.`}{" "}
      (worked out)
    </p>
  );
};

/** Holes through the hull as they would be: what shuts each, its strainer and pump, and the water that frost would find there. */
const Hull = ({ hull }: { hull: Audit["hull"] }) => {
  const { q } = useUnits();
  if (hull.length === 0) return null;
  return (
    <table className="mt-3 w-full text-[14px]">
      <caption className="border-b-2 border-green pb-1 text-left text-[16px] font-bold">
        Through the hull, as proposed
      </caption>
      <thead>
        <tr className="text-left text-[13px] text-muted">
          {["Hole", "Takes in", "Shut by", "Strainer", "Pump", "Water in it"].map((h) => (
            <th key={h} className="font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {hull.map((h) => (
          <tr key={h.part} className="border-t border-line">
            <th scope="row" className="py-1.5 text-left font-normal">
              {h.name}
            </th>
            <td>{h.takesIn ? "yes" : "no"}</td>
            <td className={h.takesIn && h.valves.length === 0 ? "font-semibold text-rust" : ""}>
              {h.valves.join(", ") || "nothing"}
            </td>
            <td>{h.strainer ? "yes" : "none"}</td>
            <td>{h.pumps.join(", ") || "none"}</td>
            <td className="tabular-nums">{q(h.volumeM3, "volume")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
};

/** Two audits side by side, line by line; nothing of it is reckoned otherwise than on the unit's own screens. */
export const AuditView = (of: OfRefit & { setup: RunSetup | undefined }) => {
  const { here, setup } = of;
  const { habits, limits } = here.onFile.refit;
  const settings = useMemo(
    (): Omit<AuditSettings, "winter"> => ({
      habits: habits ?? habitsSchema.parse({}),
      limits: limits ?? [],
    }),
    [habits, limits],
  );
  const before = useAudit("before", here.today, setup, settings);
  const after = useAudit("after", here.proposed, setup, settings);
  const lines = useMemo(
    () => (before.audit && after.audit ? besideOf(before.audit, after.audit) : []),
    [before.audit, after.audit],
  );
  const [all, setAll] = useState(false);
  const problem = before.problem ?? after.problem;
  if (problem !== undefined)
    return (
      <p role="alert" className="text-rust">
        {problem}
      </p>
    );
  if (!before.audit || !after.audit || !setup) return <Waiting />;
  const shown = lines.filter((l) => all || l.change !== "same");
  const groups = [...new Set(shown.map((l) => l.about))];
  const done = Math.min(before.done, after.done);
  const changed = lines.filter((l) => l.change !== "same").length;
  return (
    <div className="grid gap-x-8 lg:grid-cols-[minmax(0,1fr)_300px]">
      <div>
        <p role="status" className="text-[14px] text-muted">
          {done < before.of
            ? `Winterized by ${done} of ${before.of} methods so far…`
            : `${changed} of ${lines.length} things change; each winterizing from the unit in use, full of water.`}{" "}
          <label className="ml-3 inline-flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={all}
              onChange={(e) => setAll(e.target.checked)}
            />
            show what stays the same too
          </label>
        </p>
        {done === before.of && (
          <Saved before={before.audit} after={after.audit} setup={setup} here={here} />
        )}
        {groups.map((about) => (
          <table key={about} className="mt-3 w-full table-fixed text-[14px]">
            <caption className="border-b-2 border-green pb-1 text-left text-[16px] font-bold">
              {about}
            </caption>
            <thead>
              <tr className="text-left text-[13px] text-muted">
                <th className="w-[46%] font-normal">
                  <span className="sr-only">What</span>
                </th>
                <th className="font-normal">today</th>
                <th className="font-normal">proposed</th>
                <th className="w-[96px] font-normal">
                  <span className="sr-only">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {shown
                .filter((l) => l.about === about)
                .map((l) => (
                  <Line key={l.key} line={l} />
                ))}
            </tbody>
          </table>
        ))}
        <Hull hull={after.audit.hull} />
      </div>
      <HabitsForm {...of} places={here.proposed.places} settings={settings} />
    </div>
  );
};
