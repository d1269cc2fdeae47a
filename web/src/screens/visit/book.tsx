import { zodResolver } from "@hookform/resolvers/zod";
import type { Unit } from "@uppershed/contract";
import { estimateVisit, JOBS } from "@uppershed/core/inspection";
import { addMinutes, format } from "date-fns";
import { useDeferredValue, useMemo, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import { z } from "zod";
import { useHouseSetup } from "../../planning/house.ts";
import { useBegins } from "../../planning/use-begins.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { usePlan } from "../../planning/use-plan.ts";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useBookVisitMutation,
  useFindingsOfUnitQuery,
  useUnitQuery,
  useUnitsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field, PLAIN_LINK } from "../../ui/field.tsx";
import { clock } from "../../ui/words.ts";

/** Which unit: found by any word, or taken in first. */
const ChooseUnit = ({ onChoose }: { onChoose: (unit: Unit) => void }) => {
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const { data } = useUnitsQuery({ limit: 8, ...(find ? { find } : {}) });
  return (
    <section aria-label="Which unit" className="max-w-xl">
      <Field
        label="Which unit? Name, owner, phone, plate"
        maxLength={100}
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <ul className="mt-2">
        {data?.units.map((unit) => (
          <li key={unit.id} className="border-t border-line">
            <button
              type="button"
              className="flex min-h-12 w-full items-baseline gap-3 px-2 text-left hover:bg-green-soft"
              onClick={() => onChoose(unit)}
            >
              <b>{unit.name}</b>
              <span className="text-muted">
                {unit.craft}, {unit.owner} {unit.phone}
              </span>
            </button>
          </li>
        ))}
        {data?.units.length === 0 && <li className="p-2 text-muted">No unit fits.</li>}
      </ul>
      <Link to="/units/new?then=book" className={`mt-3 ${PLAIN_LINK}`}>
        It is not here yet: take it in
      </Link>
    </section>
  );
};

const formSchema = z.object({
  day: z.iso.date("Give a day."),
  time: z.string().regex(/^\d\d:\d\d$/u, "Give a time."),
  bay: z.string().trim().max(40),
  asked: z.string().trim().min(1, "Say what is asked for.").max(300),
  ownerSaid: z.string().trim().max(1000),
  jobs: z.array(z.string()),
  minutes: z.string(),
});
type Form = z.infer<typeof formSchema>;

const LABELS = new Map<string, string>(JOBS.map((j) => [j.id, j.label]));

/** How long it takes, from the jobs chosen, each with where its figure comes from. */
const useEstimate = (unitId: string, jobs: readonly string[]) => {
  const { map } = useUnitMap(unitId);
  const { data: findings } = useFindingsOfUnitQuery(unitId);
  const { data: unit } = useUnitQuery(unitId);
  const setup = useHouseSetup(unit);
  const { plan } = usePlan(jobs.includes("winterize") ? map : undefined, setup, useBegins(unitId));
  return useMemo(() => {
    if (!map) return [];
    const mend = (findings ?? [])
      .filter((f) => f.state === "open" && f.answer?.answer === "do-it")
      .flatMap((f) => f.minutes ?? []);
    return estimateVisit(jobs, map, {
      ...(plan ? { winterizeMinutes: plan.minutes } : {}),
      ...(mend.length > 0 ? { mendMinutes: mend.reduce((a, b) => a + b, 0) } : {}),
    });
  }, [map, jobs, plan, findings]);
};

/** When nothing is said yet: today, at the next full hour. */
const nextHour = () => ({
  day: format(new Date(), "yyyy-MM-dd"),
  time: format(addMinutes(new Date(), 60), "HH:00"),
});

const BookForm = ({ unit, onOther }: { unit: Unit; onOther: () => void }) => {
  const navigate = useNavigate();
  const [book, booking] = useBookVisitMutation();
  const [opening] = useState(nextHour);
  // Pressed again it is still one visit.
  const [id] = useState(uuid);
  const {
    register,
    handleSubmit,
    control,
    setValue,
    formState: { errors, dirtyFields },
  } = useForm<Form>({
    resolver: zodResolver(formSchema),
    defaultValues: {
      ...opening,
      bay: "",
      asked: "",
      ownerSaid: "",
      jobs: [],
      minutes: "",
    },
  });
  const jobs = useWatch({ control, name: "jobs" });
  const estimate = useEstimate(unit.id, jobs);
  const minutes = estimate.reduce((sum, e) => sum + e.minutes, 0);
  const alone = estimate.reduce((sum, e) => sum + e.alone, 0);
  const go = handleSubmit(async (form) => {
    const typed = Number(form.minutes);
    const reply = await book({
      id,
      unitId: unit.id,
      startsAt: new Date(`${form.day}T${form.time}`).toISOString(),
      minutes: Math.max(
        5,
        form.minutes.trim() !== "" && Number.isFinite(typed)
          ? Math.round(typed)
          : minutes + alone || 60,
      ),
      bay: form.bay,
      asked: form.asked,
      ownerSaid: form.ownerSaid,
      jobs: form.jobs,
    });
    if (!reply.error) void navigate(`/visits/${reply.data.id}`);
  });
  const toggled = register("jobs");
  return (
    <form
      onSubmit={(event) => void go(event)}
      noValidate
      className="grid max-w-4xl gap-4 md:grid-cols-2"
    >
      <div className="md:col-span-2">
        <p className="text-[17px]">
          <b>{unit.name}</b>, {unit.craft}{" "}
          <span className="text-muted">
            {[unit.owner, unit.phone, unit.plate].filter(Boolean).join(" · ")}
          </span>{" "}
          <button type="button" className="min-h-11 px-2 text-green underline" onClick={onOther}>
            another unit
          </button>
        </p>
        {unit.unsafe && (
          <p className="mt-1 border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
            An unsafe finding stands open on this unit.
          </p>
        )}
      </div>
      <fieldset className="md:col-span-2">
        <legend className="text-[15px] font-semibold">What is to be done?</legend>
        <div className="flex flex-wrap gap-x-5">
          {JOBS.map((job) => (
            <label key={job.id} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                value={job.id}
                className="size-5 accent-[var(--green)]"
                {...toggled}
                onChange={(event) => {
                  void toggled.onChange(event);
                  const next = event.target.checked
                    ? [...jobs, job.id]
                    : jobs.filter((j) => j !== job.id);
                  if (!dirtyFields.asked)
                    setValue("asked", next.map((j) => LABELS.get(j) ?? j).join(", "));
                }}
              />
              {job.label}
            </label>
          ))}
        </div>
        {estimate.length > 0 && (
          <details className="text-[14px]">
            <summary className="min-h-9 content-center">
              <b>{clock(minutes)} h with hands on</b>
              {alone > 0 && ` and ${clock(alone)} h that run by themselves`} (
              {estimate.every((e) => e.source === "worked out") ? "worked out" : "partly assumed"})
            </summary>
            <ul className="pl-4">
              {estimate.map((e) => (
                <li key={e.job}>
                  {LABELS.get(e.job)}: {e.minutes} min{e.alone > 0 && ` + ${e.alone} min`} (
                  {e.source}: {e.working})
                </li>
              ))}
            </ul>
          </details>
        )}
      </fieldset>
      <Field
        label="Asked for"
        maxLength={300}
        problem={errors.asked?.message}
        {...register("asked")}
      />
      <Field
        label="What the owner says, in their words"
        maxLength={1000}
        {...register("ownerSaid")}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field label="Day" type="date" problem={errors.day?.message} {...register("day")} />
        <Field label="Time" type="time" problem={errors.time?.message} {...register("time")} />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Bay or place" maxLength={40} {...register("bay")} />
        <Field
          label="Minutes"
          inputMode="numeric"
          placeholder={String(minutes + alone || 60)}
          {...register("minutes")}
        />
      </div>
      <div className="md:col-span-2">
        {booking.error && (
          <p role="alert" className="mb-2 text-rust">
            {problemText(booking.error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={booking.isLoading}>
          Book it
        </Button>
      </div>
    </form>
  );
};

/** A visit is booked: which unit, what is asked for, in whose words, when, and how long it takes. */
export const BookVisit = () => {
  useTitle("Book a visit");
  const [params, setParams] = useSearchParams();
  const unitId = params.get("unit") ?? "";
  const { data: unit } = useUnitQuery(unitId, { skip: unitId === "" });
  return (
    <div className="mx-auto max-w-5xl p-5">
      <h1 className="mb-4 text-2xl font-bold">Book a visit</h1>
      {unit && unitId !== "" ? (
        <BookForm key={unit.id} unit={unit} onOther={() => setParams({})} />
      ) : (
        <ChooseUnit onChoose={(chosen) => setParams({ unit: chosen.id })} />
      )}
    </div>
  );
};
