import type { Unit } from "@uppershed/contract";
import { Link } from "react-router";
import { gathered, placeOn, scaleFor, spread } from "../../frost/ladder-marks.ts";
import { LadderScale, LadderSign } from "../../frost/ladder-scale.tsx";
import { useUnits } from "../../ui/units.ts";

const UPRIGHT_PX = 40;
const WORDS_PX = 58;
// Of a ladder as high as it is at the least: a line of words, and what stands between two marks' words.
const LINE = 0.042;
const GAP = 0.012;
// So many signs stand on a line of names.
const SIGNS_A_LINE = 34;
// Units that bear anything hang at the foot.
const BEARS_ALL_C = -273;

const celsius = ({ state }: Unit): number => state.holdsToC ?? BEARS_ALL_C;

/** What weakens it, or that nobody has looked. */
const because = ({ state }: Unit): string =>
  state.weakestPart ?? (state.kind === "in-use" ? "in use, full of water (assumed)" : "");

const Alone = ({ unit }: { unit: Unit }) => {
  const { holds } = useUnits();
  return (
    <Link to={`/units/${unit.id}`} className="block text-[14px] leading-[17px] hover:underline">
      <b>{unit.name}</b> {holds(unit.state.holdsToC)}
      {unit.state.since.length > 0 && (
        <span className="text-[12.5px] text-rust"> changed since</span>
      )}
      <br />
      <span className="text-[12.5px] text-muted">{because(unit)}</span>
    </Link>
  );
};

/** Several units at about one temperature: it stands once, and their names beside each other. */
const Together = ({ units }: { units: readonly Unit[] }) => {
  const { holds } = useUnits();
  const [warmest, coldest] = [
    units[0]?.state.holdsToC ?? null,
    units.at(-1)?.state.holdsToC ?? null,
  ];
  const [from, to] = [holds(warmest), holds(coldest)];
  const assumed = units.filter((u) => u.state.kind === "in-use").length;
  return (
    <div className="text-[14px] leading-[17px]">
      <span className="text-[12.5px] text-muted">
        {from === to ? from : `${from} to ${to}`}: {units.length} units
        {assumed > 0 && `, ${assumed === units.length ? "all" : assumed} full of water (assumed)`}
      </span>
      <br />
      {units.map((unit, i) => (
        <span key={unit.id}>
          {i > 0 && ", "}
          <Link
            to={`/units/${unit.id}`}
            title={because(unit)}
            aria-label={`${unit.name} ${holds(unit.state.holdsToC)}`}
            className="font-bold hover:underline"
          >
            {unit.name}
          </Link>
          {unit.state.since.length > 0 && (
            <span className="text-[12.5px] text-rust"> changed since</span>
          )}
        </span>
      ))}
    </div>
  );
};

const FEW = 2;

/** What hangs from the ladder: each by itself, or many together; with the lines that its words take. */
const hung = (units: readonly Unit[]): { key: string; units: readonly Unit[]; lines: number }[] =>
  gathered(
    units.toSorted((a, b) => (a.name < b.name ? -1 : 1)),
    celsius,
  ).flatMap((group) => {
    if (group.length <= FEW)
      return group.map((unit) => ({ key: unit.id, units: [unit], lines: 2 }));
    const signs = group.reduce(
      (sum, u) =>
        sum + u.name.length + 2 + (u.state.since.length > 0 ? " changed since".length : 0),
      0,
    );
    return [{ key: group[0]?.id ?? "", units: group, lines: 1 + Math.ceil(signs / SIGNS_A_LINE) }];
  });

/** The frost ladder of the whole lot: one mark for each unit, or for all that hold about the same. */
export const LotLadder = ({
  units,
  found,
  winterLowC,
}: {
  units: readonly Unit[];
  found: number;
  winterLowC: number;
}) => {
  const scale = scaleFor(
    units.flatMap((u) => u.state.holdsToC ?? []),
    winterLowC,
  );
  const groups = hung(units);
  const places = groups.map((g) => {
    const [first] = g.units;
    return first && first.state.holdsToC !== null ? placeOn(scale, first.state.holdsToC) : 1;
  });
  const tops = spread(
    places,
    groups.map((g) => g.lines * LINE + GAP),
  );
  const marks = groups.map((group, i) => ({
    ...group,
    at: places[i] ?? 1,
    textAt: tops[i] ?? 1,
    bad: group.units.some(
      (u) => u.state.holdsToC !== null && u.state.holdsToC > (u.place?.winterLowC ?? winterLowC),
    ),
  }));
  const height = groups.reduce((sum, g) => sum + g.lines * LINE + GAP, 0);
  return (
    <section aria-label="Frost ladder of the lot" className="flex h-full min-h-[420px] flex-col">
      <h2 className="font-bold">Frost ladder of the lot</h2>
      <p className="text-[13px] text-muted">
        lowest that each unit holds, as last known
        {found > units.length && `; the ${units.length} that bear least of ${found}`}
      </p>
      <div className="relative mt-3 flex-1" style={{ minHeight: Math.max(380, height * 410) }}>
        <LadderScale
          scale={scale}
          winterLowC={winterLowC}
          leftPx={UPRIGHT_PX}
          threads={marks.map((m) => ({ key: m.key, at: m.at, textAt: m.textAt + LINE / 2 }))}
        />
        <ul>
          {marks.map(({ key, units: of, at, textAt, bad }) => (
            <li key={key}>
              <LadderSign at={at} bad={bad} leftPx={UPRIGHT_PX} />
              <div className="absolute right-0" style={{ top: `${textAt * 100}%`, left: WORDS_PX }}>
                {of.length === 1 && of[0] ? <Alone unit={of[0]} /> : <Together units={of} />}
              </div>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
};
