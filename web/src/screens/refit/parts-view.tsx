import type { RefitKitOnFile } from "@uppershed/contract";
import { writePricesCsv } from "@uppershed/core/formats";
import { TAKEN_OUT } from "@uppershed/core/refit";
import { useRef, useState } from "react";
import { saveFile } from "../../mapping/save-file.ts";
import { FitCheck } from "../../refitting/fit-check.tsx";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { cutLength, cutsCsv, shoppingCsv } from "../../refitting/lists.ts";
import {
  problemText,
  usePricesQuery,
  useRefitKitQuery,
  useTakePricesMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

/** One roll or length with the pieces that are cut from it, drawn to scale and told in words. */
const Roll = ({ laid }: { laid: RefitKitOnFile["pipes"][number]["plan"]["laid"][number] }) => {
  const { system } = useUnits();
  const words = laid.pieces.map((p) => `${cutLength(p.lengthM, system)} ${p.name}`).join(", ");
  return (
    <li className="my-2">
      <p className="text-[13px]">
        {laid.isRest ? "Rest piece" : "New"}, {cutLength(laid.lengthM, system)}: {words};{" "}
        {cutLength(laid.leftM, system)} left
      </p>
      <svg aria-hidden viewBox="0 0 100 5" preserveAspectRatio="none" className="h-5 w-full">
        <rect width="100" height="5" fill="var(--ground)" stroke="var(--line)" strokeWidth="0.2" />
        {laid.pieces.map((p, i) => {
          const before = laid.pieces.slice(0, i).reduce((sum, x) => sum + x.lengthM, 0);
          return (
            <rect
              key={p.id}
              x={(before / laid.lengthM) * 100}
              width={(p.lengthM / laid.lengthM) * 100}
              height="5"
              fill={i % 2 === 0 ? "var(--green-soft)" : "var(--raised)"}
              stroke="var(--green)"
              strokeWidth="0.25"
            />
          );
        })}
      </svg>
    </li>
  );
};

const TAKEN: Readonly<Record<(typeof TAKEN_OUT)[number], string>> = {
  keep: "keep for the owner",
  scrap: "scrap",
  stock: "into the stores",
};

// Pipe, parts, rings, adapters and sealants are wetted by what is drunk; clips and sleeves are not.
const TOUCHES_WATER = /^(?:pipe|kind|joint|adapter|seal):/u;

/** Whether the mark for drinking water was looked for, and is there. */
const Mark = ({
  label,
  seen,
  onSay,
}: {
  label: string;
  seen: { readonly ok: boolean } | undefined;
  onSay: ((ok: boolean) => void) | undefined;
}) => (
  <span className="flex flex-wrap items-center gap-2 text-[13px] font-normal">
    <span className={seen && !seen.ok ? "font-semibold text-rust" : "text-muted"}>
      Drinking-water mark: {seen ? (seen.ok ? "seen" : "not on it") : "not looked for"}
    </span>
    {onSay && (
      <span role="group" aria-label={`Drinking-water mark of ${label}`} className="flex gap-2">
        <button type="button" className="min-h-9 underline" onClick={() => onSay(true)}>
          seen
        </button>
        <button type="button" className="min-h-9 underline" onClick={() => onSay(false)}>
          not on it
        </button>
      </span>
    )}
  </span>
);

/** The workshop's own prices, rolls and rest pieces, as a file out and in. */
const Prices = ({ mayStock, lines }: { mayStock: boolean; lines: RefitKitOnFile["lines"] }) => {
  const { data: known = [] } = usePricesQuery();
  const [take, taking] = useTakePricesMutation();
  const [said, setSaid] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const out = (): void => {
    const keys = new Set(known.map((k) => k.key));
    const fresh = lines
      .filter((l) => !keys.has(l.key))
      .map((l) => ({ key: l.key, label: l.label, price: null, rollM: null, restsM: [] }));
    saveFile("prices.csv", writePricesCsv([...known, ...fresh]), "text/csv");
  };
  const bring = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const reply = await take(await file.text());
    const details = (
      reply.error as { data?: { error?: { details?: { where: string; problem: string }[] } } }
    )?.data?.error?.details;
    setSaid(
      reply.error
        ? [
            problemText(reply.error),
            ...(details ?? []).slice(0, 5).map((d) => `${d.where}: ${d.problem}`),
          ].join(" ")
        : `${reply.data.lines.length} lines kept.`,
    );
  };
  return (
    <section aria-label="Prices" className="mt-4 print:hidden">
      <h2 className="text-[16px] font-bold">Prices, rolls and rest pieces</h2>
      <p className="text-[14px] text-muted">
        The workshop&apos;s own list: taken out it has a line for everything that this refit takes;
        brought in it stands in the place of the one before.
      </p>
      <div className="mt-2 flex flex-wrap gap-3">
        <Button onClick={out}>Take the list out</Button>
        {mayStock && (
          <>
            <Button disabled={taking.isLoading} onClick={() => input.current?.click()}>
              Bring a list in
            </Button>
            <input
              ref={input}
              type="file"
              accept=".csv,text/csv"
              aria-label="A list of prices"
              className="sr-only"
              tabIndex={-1}
              onChange={(e) => {
                void bring(e.target.files?.[0]);
                e.target.value = "";
              }}
            />
          </>
        )}
      </div>
      {said && (
        <p role="status" className="mt-2 text-[14px]">
          {said}
        </p>
      )}
    </section>
  );
};

type Kit = RefitKitOnFile;
type Proved = OfRefit["here"]["onFile"]["refit"]["proved"];

const ToBuy = ({
  kit,
  proved,
  onMark,
}: {
  kit: Kit;
  proved: Proved;
  onMark: ((row: string, ok: boolean) => void) | undefined;
}) => {
  const { text } = useUnits();
  return (
    <table className="w-full text-[14px]">
      <thead>
        <tr className="text-left text-[13px] text-muted">
          <th className="font-normal">What</th>
          <th className="font-normal">How many</th>
          <th className="font-normal">Each</th>
          <th className="font-normal">In all</th>
        </tr>
      </thead>
      <tbody>
        {kit.lines.map((l) => (
          <tr key={l.key} className="border-t border-line align-top">
            <th scope="row" className="py-1.5 pr-2 text-left font-semibold">
              {capital(l.label)}
              <span className="block text-[13px] font-normal text-muted">{text(l.why)}</span>
              {TOUCHES_WATER.test(l.key) && (
                <Mark
                  label={l.label}
                  seen={proved[`mark ${l.key}`]}
                  onSay={onMark && ((ok) => onMark(`mark ${l.key}`, ok))}
                />
              )}
            </th>
            <td className="py-1.5 pr-2 tabular-nums">
              {l.count} {l.unit === "roll" ? (l.count === 1 ? "roll" : "rolls") : ""}
            </td>
            <td className="py-1.5 pr-2 tabular-nums">{l.each?.toFixed(2) ?? "no price"}</td>
            <td className="py-1.5 tabular-nums">{l.sum?.toFixed(2) ?? ""}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="border-t-2 border-green">
          <th scope="row" colSpan={3} className="py-1.5 text-left">
            {kit.missing.length === 0
              ? "In all"
              : `In all, without ${kit.missing.length} that have no price`}
          </th>
          <td className="py-1.5 font-semibold tabular-nums">{kit.sum.toFixed(2)}</td>
        </tr>
      </tfoot>
    </table>
  );
};

const ComesOut = ({
  out,
  takenOut,
  onSay,
}: {
  out: Kit["out"];
  takenOut: OfRefit["here"]["onFile"]["refit"]["takenOut"];
  onSay: ((of: string, goes: (typeof TAKEN_OUT)[number]) => void) | undefined;
}) => {
  if (out.length === 0) return null;
  return (
    <>
      <h2 className="mt-3 text-[16px] font-bold">What comes out</h2>
      <ul>
        {out.map((o) => (
          <li
            key={o.id}
            className="flex flex-wrap items-center gap-2 border-t border-line py-1.5 text-[14px]"
          >
            <span className="min-w-0 flex-1">{o.label}</span>
            <select
              className="field"
              aria-label={`Where ${o.label} goes`}
              disabled={!onSay}
              value={takenOut[o.id] ?? ""}
              onChange={(e) => {
                const goes = TAKEN_OUT.find((t) => t === e.target.value);
                if (goes) onSay?.(o.id, goes);
              }}
            >
              <option value="">not said</option>
              {TAKEN_OUT.map((t) => (
                <option key={t} value={t}>
                  {TAKEN[t]}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
    </>
  );
};

/** What it takes: what is bought, how the pipe is cut, what tools, what comes out. */
export const PartsView = ({
  unitId,
  refitId,
  here,
  mayWork,
  mayStock,
}: OfRefit & { mayStock: boolean }) => {
  const { data: kit, error } = useRefitKitQuery({ unitId, refitId });
  const { system } = useUnits();
  const enter = useRefitEntry(unitId, refitId);
  const [problem, setProblem] = useState<string>();
  const { takenOut, proved } = here.onFile.refit;
  if (!kit) return <Waiting error={error} />;
  if (kit.lines.length === 0 && kit.out.length === 0)
    return <p className="my-3 text-muted">Nothing is to be bought or taken out yet.</p>;
  return (
    <div className="grid gap-x-8 lg:grid-cols-2">
      <section aria-label="To be bought">
        <div className="my-2 flex flex-wrap items-baseline gap-3">
          <h2 className="flex-1 text-[16px] font-bold">To be bought</h2>
          <Button
            onClick={() => saveFile(`${here.onFile.name}-parts.csv`, shoppingCsv(kit), "text/csv")}
          >
            As CSV
          </Button>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
        <ToBuy
          kit={kit}
          proved={proved}
          onMark={
            mayWork
              ? (row, ok) => void enter({ type: "proved", row, ok }).then(setProblem)
              : undefined
          }
        />
        {kit.clashes.map((c) => (
          <p key={c} className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
            {c}
          </p>
        ))}
        <Prices mayStock={mayStock} lines={kit.lines} />
        <FitCheck />
      </section>
      <section aria-label="How the pipe is cut">
        <div className="my-2 flex flex-wrap items-baseline gap-3">
          <h2 className="flex-1 text-[16px] font-bold">How the pipe is cut</h2>
          <Button
            onClick={() => saveFile(`${here.onFile.name}-cuts.csv`, cutsCsv(kit), "text/csv")}
          >
            As CSV
          </Button>
        </div>
        {kit.pipes.map((p) => (
          <div key={p.key} className="border-t border-line py-2">
            <h3 className="font-semibold">
              {p.label}: {cutLength(p.lengthM, system)} in all, {p.plan.bought} to be bought
              {p.plan.bought > p.plan.atLeast && ` (no fewer than ${p.plan.atLeast})`}
            </h3>
            {p.plan.tooLong.map((t) => (
              <p key={t.id} className="text-[14px] text-rust">
                {t.name}, {cutLength(t.lengthM, system)}: longer than any roll. A joint more, or a
                longer roll.
              </p>
            ))}
            <ul>
              {p.plan.laid.map((l) => (
                <Roll key={l.pieces.map((x) => x.id).join(" ")} laid={l} />
              ))}
            </ul>
          </div>
        ))}
        {kit.tools.length > 0 && (
          <>
            <h2 className="mt-3 text-[16px] font-bold">Tools</h2>
            <p className="text-[14px]">{kit.tools.join(", ")}.</p>
          </>
        )}
        {kit.openEnds.length > 0 && (
          <>
            <h2 className="mt-3 text-[16px] font-bold">Open while the work is on</h2>
            <p className="text-[14px]">
              Capped whenever it stops for the day: {kit.openEnds.join("; ")}.
            </p>
          </>
        )}
        <ComesOut
          out={kit.out}
          takenOut={takenOut}
          onSay={
            mayWork
              ? (of, goes) => void enter({ type: "taken-out", of, goes }).then(setProblem)
              : undefined
          }
        />
        {problem && (
          <p role="alert" className="mt-2 text-rust">
            {problem}
          </p>
        )}
      </section>
    </div>
  );
};
