import { mayDo, type RuleRevision, type Rules } from "@uppershed/contract";
import { parseQuantity, readNumber, measuresOf, type UnitSystem } from "@uppershed/core/quantity";
import {
  isChoice,
  pointOf,
  RULE_POINTS,
  RULE_SECTIONS,
  RULE_STANDARDS,
  ruleInWords,
  type RuleValue,
  type RuleValues,
} from "@uppershed/core/rules";
import { useMemo, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useChangeRulesMutation, useMeQuery, useRulesQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { HouseNav } from "../../house/house-nav.tsx";
import { figureText, type RuleForm, RulePointField } from "./rule-point.tsx";

/** Form fields are named by their place in the list: a key has points in it. */
const fieldOf = (index: number): string => `p${index}`;

const valueOf = (values: RuleValues, key: string): RuleValue =>
  values[key] ?? RULE_STANDARDS[key] ?? "";

const asForm = (values: RuleValues, units: UnitSystem): RuleForm =>
  Object.fromEntries(
    RULE_POINTS.map((p, i) => {
      const value = valueOf(values, p.key);
      return [fieldOf(i), isChoice(p) ? String(value) : figureText(p, Number(value), units)];
    }),
  );

type Read =
  | { readonly ok: true; readonly value: RuleValue }
  | { readonly ok: false; readonly problem: string };

/** A field as typed; what was not touched keeps its digits. */
const read = (index: number, typed: string, before: RuleValues, units: UnitSystem): Read => {
  const point = RULE_POINTS[index];
  if (!point) return { ok: false, problem: "not a rule" };
  const value = valueOf(before, point.key);
  if (isChoice(point)) return { ok: true, value: typed };
  if (typed.trim() === figureText(point, Number(value), units)) return { ok: true, value };
  let number: number;
  if (point.is === "number") {
    const text = typed.replace(point.unit ?? "", "").trim();
    const found = readNumber(text, measuresOf(units).mark);
    if (!found.ok) return { ok: false, problem: found.problem };
    if (found.length !== text.length) return { ok: false, problem: `"${typed}" is not a number.` };
    number = found.value;
  } else {
    const found = parseQuantity(typed, point.is, units);
    if (!found.ok) return { ok: false, problem: found.problem };
    number = found.quantity.si;
  }
  return number >= point.low - 1e-9 && number <= point.high + 1e-9
    ? { ok: true, value: Math.min(point.high, Math.max(point.low, number)) }
    : {
        ok: false,
        problem: `Between ${ruleInWords(point.key, point.low, units)} and ${ruleInWords(point.key, point.high, units)}.`,
      };
};

/** Only what differs from what was shipped is kept. */
const chosen = (all: RuleValues): RuleValues =>
  Object.fromEntries(Object.entries(all).filter(([key, value]) => value !== RULE_STANDARDS[key]));

/** What a revision changed against the one before it. */
const Changes = ({ now, before }: { now: RuleRevision; before: RuleRevision }) => {
  const { system } = useUnits();
  const keys = RULE_POINTS.map((p) => p.key).filter(
    (key) => valueOf(now.values, key) !== valueOf(before.values, key),
  );
  return (
    <ul className="list-disc pl-5 text-[14px]">
      {keys.map((key) => (
        <li key={key}>
          {pointOf(key)?.question} {ruleInWords(key, valueOf(now.values, key), system)}, before:{" "}
          {ruleInWords(key, valueOf(before.values, key), system)}
        </li>
      ))}
    </ul>
  );
};

const Revisions = ({ rules }: { rules: Rules }) => (
  <section aria-label="Revisions" className="mt-8">
    <h2 className="border-b-2 border-green text-[16px] font-bold">Revisions</h2>
    <p className="mt-1 text-[14px] text-muted">
      A plan begun by one of them keeps it, and its signed sheet prints it, whatever is changed
      later.
    </p>
    <ol className="mt-2 space-y-2">
      {rules.before.map((r, i) => {
        const before = rules.before[i + 1];
        return (
          <li key={r.revision} className="text-[15px]">
            <b>Revision {r.revision}</b>
            {r.at !== null && `, ${dayOf(r.at)}, ${r.by}`}
            {r.countersignedBy !== null && `, countersigned by ${r.countersignedBy}`}: {r.why}
            {before && <Changes now={r} before={before} />}
          </li>
        );
      })}
    </ol>
  </section>
);

const RulesForm = ({ rules, mayChange }: { rules: Rules; mayChange: boolean }) => {
  const { system } = useUnits();
  const [change, changing] = useChangeRulesMutation();
  const [id, setId] = useState(uuid);
  const { values } = rules.now;
  const shown = useMemo(() => asForm(values, system), [values, system]);
  const { register, control, handleSubmit, setError, formState } = useForm<RuleForm>({
    defaultValues: { ...shown, why: "" },
  });
  const typed = useWatch({ control });
  const touched = RULE_POINTS.filter((_, i) => (typed[fieldOf(i)] ?? "") !== shown[fieldOf(i)]);
  const keep = handleSubmit(async ({ why = "", ...fields }) => {
    const all: Record<string, RuleValue> = {};
    let bad = false;
    for (const [i, point] of RULE_POINTS.entries()) {
      const got = read(i, fields[fieldOf(i)] ?? "", values, system);
      if (got.ok) all[point.key] = got.value;
      else {
        setError(fieldOf(i), { message: got.problem }, { shouldFocus: !bad });
        bad = true;
      }
    }
    if (why.trim() === "") setError("why", { message: "Say why." });
    if (bad || why.trim() === "") return;
    const reply = await change({
      id,
      basedOn: rules.now.revision,
      why: why.trim(),
      values: chosen(all),
    });
    if (!reply.error) setId(uuid());
  });
  return (
    <form onSubmit={(e) => void keep(e)} noValidate>
      <fieldset disabled={!mayChange} className="min-w-0">
        {RULE_SECTIONS.map((section) => (
          <section key={section} aria-label={section} className="mt-5">
            <h2 className="border-b-2 border-green text-[16px] font-bold">{section}</h2>
            {RULE_POINTS.map(
              (point, i) =>
                point.section === section && (
                  <RulePointField
                    key={point.key}
                    point={point}
                    name={fieldOf(i)}
                    register={register}
                    problem={formState.errors[fieldOf(i)]?.message}
                  />
                ),
            )}
          </section>
        ))}
      </fieldset>
      {changing.data?.waits === true && (
        <p role="status" className="mt-3 border-l-4 border-green bg-green-soft p-3">
          Asked for. It comes into force when somebody else has countersigned it.
        </p>
      )}
      {changing.error && (
        <p role="alert" className="mt-3 border-l-4 border-rust bg-rust-soft p-3">
          {problemText(changing.error)}
        </p>
      )}
      {mayChange && touched.length > 0 && (
        <div className="sticky bottom-0 mt-4 flex flex-wrap items-end gap-3 border-t-2 border-green bg-paper py-3">
          <Field
            label={`Why ${touched.length === 1 ? "this changes" : `these ${touched.length} change`}`}
            className="min-w-64 flex-1"
            maxLength={300}
            problem={formState.errors["why"]?.message}
            {...register("why")}
          />
          <Button type="submit" look="act" big disabled={changing.isLoading}>
            Keep as revision {rules.now.revision + 1}
          </Button>
        </div>
      )}
    </form>
  );
};

/** The house rules: on what able people differ, what this workshop does, and since when. */
export const RulesScreen = () => {
  useTitle("House rules");
  const { data: me } = useMeQuery();
  const { data: rules, error } = useRulesQuery(undefined, { refetchOnMountOrArgChange: true });
  if (!me || !rules) return <Waiting error={error} />;
  const mayChange = mayDo(me.person.role, "house");
  return (
    <div className="mx-auto max-w-6xl p-5">
      <HouseNav role={me.person.role} />
      <h1 className="mt-3 text-2xl font-bold">House rules</h1>
      <p className="max-w-3xl text-[15px]">
        Able people do these things differently, each for a reason that holds on some unit. Every
        plan and signed sheet prints what it went by; whoever departs from a rule on one job gives a
        reason, which is printed too.
        {!mayChange && " The lead changes them."}
      </p>
      <details className="mt-2 max-w-3xl text-[15px]">
        <summary className="min-h-8 font-semibold">Not for choice</summary>
        <ul className="list-disc pl-5">
          <li>
            A heater is never left shut in and full, and never heated before a hot tap ran without
            air.
          </li>
          <li>Nothing is opened under heat or pressure.</li>
          <li>Air is never above what the weakest part in reach bears.</li>
          <li>Only potable-grade propylene glycol; never automotive coolant.</li>
          <li>Chlorine never meets acid, ammonia or antifreeze.</li>
          <li>A part of which nothing is known never counts as protected.</li>
        </ul>
      </details>
      <RulesForm key={rules.now.revision} rules={rules} mayChange={mayChange} />
      <Revisions rules={rules} />
    </div>
  );
};
