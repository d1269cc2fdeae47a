import {
  CALCULATIONS,
  type Calculation,
  type Figure,
  readInputs,
  reckon,
  type ReckonInput,
  showFigure,
  standardText,
} from "@uppershed/core/reckon";
import { lazy, Suspense, useId, useState } from "react";
import { NavLink, Navigate, useNavigate, useParams, useSearchParams } from "react-router";
import { NotFound } from "../../shell/not-found.tsx";
import { FitCheck } from "../../refitting/fit-check.tsx";
import { useTitle } from "../../shell/slots.tsx";
import { useUnits } from "../../ui/units.ts";

// The chart comes when somebody wants to look.
const Course = lazy(async () => ({ default: (await import("./course.tsx")).Course }));

/** The answer as a picture, against any of the inputs. */
const Picture = ({
  calculation,
  values,
  answer,
}: {
  calculation: Calculation;
  values: Readonly<Record<string, number>>;
  answer: Figure;
}) => {
  const [along, setAlong] = useState(calculation.inputs[0]?.name ?? "");
  const id = useId();
  return (
    <section aria-label="Picture" className="mt-4">
      <label htmlFor={id} className="text-[15px] font-bold">
        If another were asked:{" "}
      </label>
      <select
        id={id}
        className="field ml-1 max-w-full"
        value={along}
        onChange={(e) => setAlong(e.target.value)}
      >
        {calculation.inputs.map((i) => (
          <option key={i.name} value={i.name}>
            {i.label}
          </option>
        ))}
      </select>
      <Suspense fallback={<div className="h-64" />}>
        <Course calculation={calculation} values={values} along={along} answer={answer} />
      </Suspense>
    </section>
  );
};

const AskedFor = ({
  asked,
  text,
  problem,
  onType,
}: {
  asked: ReckonInput;
  text: string;
  problem: string | undefined;
  onType: (text: string) => void;
}) => {
  const id = useId();
  return (
    <div className="py-1.5">
      <label htmlFor={id} className="block text-[14px] text-muted">
        {asked.label}
      </label>
      <input
        id={id}
        className="field w-full"
        value={text}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${id}-no` : undefined}
        onChange={(e) => onType(e.target.value)}
      />
      {problem && (
        <p id={`${id}-no`} role="alert" className="text-[13px] text-rust">
          {asked.label}: {problem}
        </p>
      )}
    </div>
  );
};

/** A calculation that stands alone: inputs, answer, its working opened, and a link that carries the inputs. */
const Sheet = ({ calculation }: { calculation: Calculation }) => {
  useTitle(calculation.title);
  const { system } = useUnits();
  const [search, setSearch] = useSearchParams();
  const [copied, setCopied] = useState(false);
  const { values, problems } = readInputs(calculation, (name) => search.get(name), system);
  const wrong = Object.keys(problems).length > 0;
  const result = wrong ? undefined : reckon(calculation, values);
  const show = (figure: Figure): string => showFigure(figure, system);
  const type = (name: string, text: string): void => {
    setCopied(false);
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        next.set(name, text);
        return next;
      },
      { replace: true },
    );
  };
  // A link for somebody else carries every input, typed or not.
  const link = (): string => {
    const all = new URLSearchParams(
      calculation.inputs.map((i) => [i.name, search.get(i.name) ?? standardText(i, system)]),
    );
    return `${location.origin}/reckoner/${calculation.name}?${all.toString()}`;
  };
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(link());
    setCopied(true);
  };
  return (
    <div className="min-w-0 flex-1">
      <h1 className="text-2xl font-bold">{calculation.title}</h1>
      <div className="mt-3 grid gap-6 md:grid-cols-[18rem_1fr]">
        <div role="group" aria-label="Inputs">
          {calculation.inputs.map((i) => (
            <AskedFor
              key={i.name}
              asked={i}
              text={search.get(i.name) ?? standardText(i, system)}
              problem={problems[i.name]}
              onType={(text) => type(i.name, text)}
            />
          ))}
          <button
            type="button"
            className="mt-2 min-h-11 text-[14px] text-green underline"
            onClick={() => void copy()}
          >
            {copied ? "Link copied" : "Copy a link with these figures"}
          </button>
        </div>
        <div className="min-w-0">
          <section
            aria-label="Answer"
            aria-live="polite"
            className="border-l-4 border-green bg-green-soft px-4 py-3"
          >
            {wrong && <p>An input cannot be read: see beside it.</p>}
            {result && !result.ok && <p className="text-rust">{result.problem}</p>}
            {result?.ok && (
              <>
                <p className="text-[14px] text-muted">{result.answer.label} (worked out)</p>
                <p className="text-3xl font-bold">{show(result.answer)}</p>
                <dl className="mt-1">
                  {result.also.map((figure) => (
                    <div key={figure.label} className="flex flex-wrap gap-x-2 text-[15px]">
                      <dt className="text-muted">{figure.label}</dt>
                      <dd className="font-semibold">{show(figure)}</dd>
                    </div>
                  ))}
                </dl>
              </>
            )}
          </section>
          {calculation.thumb && (
            <p className="mt-3 text-[15px]">
              <b>The trade says:</b> {calculation.thumb}
            </p>
          )}
          {calculation.caution && (
            <p className="mt-3 border-l-4 border-rust px-3 text-[15px]">
              <b>Caution:</b> {calculation.caution}
            </p>
          )}
          {result?.ok && (
            <Picture calculation={calculation} values={values} answer={result.answer} />
          )}
          {result?.ok && (
            <section aria-label="Working" className="mt-4">
              <h2 className="text-[15px] font-bold">Working</h2>
              <ol className="mt-1">
                {result.working.map((line) => (
                  <li key={line.label} className="border-t border-line py-2 text-[14px]">
                    <span className="flex flex-wrap justify-between gap-x-4">
                      <span>
                        {line.label} = <span className="font-semibold">{line.formula}</span>
                      </span>
                      <b>{show(line)}</b>
                    </span>
                    <span className="block text-muted">
                      with{" "}
                      {Object.entries(line.with)
                        .map(
                          ([letter, value]) =>
                            `${letter} = ${showFigure({ value, is: "number" }, system)}`,
                        )
                        .join(", ")}{" "}
                      (SI units)
                    </span>
                  </li>
                ))}
              </ol>
            </section>
          )}
          <p className="mt-2 text-[13px] text-muted">Source: {calculation.source}</p>
        </div>
      </div>
    </div>
  );
};

// Not a calculation: what the caliper in the hand shows.
const FITS = { name: "what-fits", title: "What fits: tube, thread, hose by the caliper" } as const;
const PAGES: readonly { readonly name: string; readonly title: string }[] = [...CALCULATIONS, FITS];

const Fits = () => {
  useTitle(FITS.title);
  return (
    <div className="max-w-xl">
      <h1 className="sr-only">{FITS.title}</h1>
      <FitCheck />
    </div>
  );
};

/** Every calculator on its own, for a quick answer without a unit. */
export const Reckoner = () => {
  const { name } = useParams();
  const navigate = useNavigate();
  const calculation = CALCULATIONS.find((c) => c.name === name);
  if (name === undefined)
    return <Navigate to={`/reckoner/${CALCULATIONS[0]?.name ?? ""}`} replace />;
  if (!calculation && name !== FITS.name) return <NotFound />;
  return (
    <div className="mx-auto flex max-w-7xl flex-col gap-6 p-5 lg:flex-row">
      <label className="lg:hidden">
        <span className="block text-[14px] text-muted">Calculation</span>
        <select
          className="field w-full"
          value={name}
          onChange={(e) => void navigate(`/reckoner/${e.target.value}`)}
        >
          {PAGES.map((c) => (
            <option key={c.name} value={c.name}>
              {c.title}
            </option>
          ))}
        </select>
      </label>
      <nav aria-label="Calculations" className="hidden shrink-0 lg:block lg:w-72">
        <ul>
          {PAGES.map((c) => (
            <li key={c.name}>
              <NavLink
                to={`/reckoner/${c.name}`}
                className={({ isActive }) =>
                  `flex min-h-11 items-center border-l-4 px-3 py-1 text-[14px] ${isActive ? "border-green bg-green-soft font-semibold" : "border-transparent text-green hover:underline"}`
                }
              >
                {c.title}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      {calculation ? <Sheet key={calculation.name} calculation={calculation} /> : <Fits />}
    </div>
  );
};
