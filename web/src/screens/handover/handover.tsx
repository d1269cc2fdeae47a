import { litMapSvg } from "@uppershed/core/formats";
import { handoverOf } from "@uppershed/core/survey";
import { buildNetwork } from "@uppershed/core/watermap";
import { Printer } from "lucide-react";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { useUnitMap } from "../../planning/use-map.ts";
import { PictureStrip } from "../../pictures/picture-strip.tsx";
import { usePicturesNow } from "../../sending/on-device.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMeQuery, useRulesQuery, useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";

/** How the water of this unit is used: what is said when it is handed over, with its own handles, pictures and places on the map. */
export const HandoverScreen = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: me } = useMeQuery();
  const { data: rules } = useRulesQuery();
  const { map, error } = useUnitMap(unitId);
  const pictures = usePicturesNow(unitId);
  const { text } = useUnits();
  const [chosen, setChosen] = useState<string>();
  useTitle(unit ? `Using the water of ${unit.name}` : "Using the water");
  const sections = useMemo(
    () => map && rules && handoverOf(buildNetwork(map), rules.now.values),
    [map, rules],
  );
  const shown = sections?.find((s) => s.title === chosen) ?? sections?.[0];
  const svg = useMemo(
    () =>
      map &&
      shown &&
      `data:image/svg+xml,${encodeURIComponent(litMapSvg(map, shown.parts.slice(0, 12)))}`,
    [map, shown],
  );
  if (!unit || !map || !sections || !me) return <Waiting error={unitError ?? error} />;
  return (
    <article className="mx-auto max-w-5xl px-6 pb-16 pt-5">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
      </InBar>
      <header className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <p className="text-[14px] text-muted">{me.workshop.name}</p>
          <h1 className="text-[26px] font-extrabold">Using the water of {unit.name}</h1>
        </div>
        <Button onClick={() => window.print()}>
          <Printer aria-hidden size={18} /> Print
        </Button>
      </header>
      <div className="mt-3 grid gap-x-8 md:grid-cols-[1fr_1fr]">
        <div>
          {sections.map((s) => (
            <section key={s.title} aria-label={s.title} className="mt-4 break-inside-avoid">
              <h2 className="border-b-2 border-green pb-0.5 text-[17px] font-bold">{s.title}</h2>
              <ul className="mt-1 list-disc pl-5 text-[15.5px]">
                {s.lines.map((line) => (
                  <li key={line}>{text(line)}</li>
                ))}
              </ul>
              {s.parts.length > 0 && (
                <button
                  type="button"
                  aria-pressed={shown === s}
                  onClick={() => setChosen(s.title)}
                  className="no-print min-h-11 text-[14px] underline"
                >
                  Show on the map
                </button>
              )}
              <PictureStrip
                pictures={pictures.filter(
                  (p) => p.about === "part" && s.parts.some((id) => p.aboutId === id),
                )}
              />
            </section>
          ))}
        </div>
        <figure className="mt-4 self-start md:sticky md:top-16">
          {svg && shown && (
            <img
              src={svg}
              alt={`Map of ${unit.name}, marked for: ${shown.title}`}
              className="w-full border border-line"
            />
          )}
          <figcaption className="text-[14px] text-muted">
            Marked: {shown?.title.toLowerCase()}
          </figcaption>
        </figure>
      </div>
      <p className="mt-6 text-[13.5px] text-muted">
        The makers' instructions and local codes come before this sheet; gas and mains are for
        licensed trades.
      </p>
    </article>
  );
};
