import {
  type PartLife,
  writeInp,
  writeMapJson,
  writePartsCsv,
  writeSvg,
} from "@uppershed/core/formats";
import { type Lineup, type MapLayout, type WaterMap } from "@uppershed/core/watermap";
import { useState } from "react";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { Differences } from "./differences.tsx";
import { type FileReading, readFileOnto } from "./read-file.ts";
import { saveFile } from "./save-file.ts";

interface FileSheetProps {
  readonly onClose: () => void;
  readonly map: WaterMap;
  readonly lineup: Lineup;
  readonly layout: MapLayout | undefined;
  readonly lives: ReadonlyMap<string, PartLife>;
  readonly onTake: (map: WaterMap, lives: Readonly<Record<string, PartLife>>) => void;
}

/** What a file would do to the map, shown before it does it; or what is wrong with it, line by line. */
const Reading = ({ reading, onTake }: { reading: FileReading; onTake: () => void }) => {
  if (!reading.ok)
    return (
      <div role="alert" className="mt-3 border-l-4 border-rust bg-rust-soft p-3 text-[14px]">
        <p className="font-semibold">Nothing was changed. What is wrong with the file:</p>
        <ul className="mt-1 max-h-60 overflow-auto">
          {reading.problems.map((p) => (
            <li key={`${p.line ?? ""} ${p.where} ${p.problem}`}>
              {p.line === undefined ? "" : `line ${p.line}, `}
              <b>{p.where}</b>: {p.problem}
            </li>
          ))}
        </ul>
      </div>
    );
  const lives = Object.keys(reading.lives).length;
  const nothing = reading.differences.length === 0 && lives === 0;
  return (
    <div className="mt-3">
      <p className="font-semibold">
        {nothing ? "The file says what the map says: nothing would change." : "This would change:"}
      </p>
      <div className="max-h-60 overflow-auto">
        {reading.differences.length > 0 && <Differences list={reading.differences} />}
        {lives > 0 && (
          <p className="border-t border-line py-1.5 text-[14px]">The register of {lives} parts</p>
        )}
      </div>
      {reading.report.length > 0 && (
        <details className="mt-2 text-[14px]" open>
          <summary className="min-h-9">What the file could not carry</summary>
          <ul className="list-disc pl-5">
            {reading.report.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </details>
      )}
      {!nothing && (
        <Button look="act" big className="mt-3" onClick={onTake}>
          Put it on the bench
        </Button>
      )}
    </div>
  );
};

/** Files out and in. Nothing read here is saved: it comes onto the bench, can be undone, and is saved like any other change. */
export const FileSheet = ({ onClose, map, lineup, layout, lives, onTake }: FileSheetProps) => {
  const [reading, setReading] = useState<FileReading>();
  const [report, setReport] = useState<readonly string[]>([]);
  const close = (): void => {
    setReading(undefined);
    setReport([]);
    onClose();
  };
  return (
    <Sheet open onClose={close} title="Files">
      <p className="text-[14px] text-muted">Out: what is on the bench now.</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={() => saveFile(`${map.id}.json`, writeMapJson(map), "application/json")}>
          Map, JSON
        </Button>
        <Button
          onClick={() => saveFile(`${map.id}-parts.csv`, writePartsCsv(map, lives), "text/csv")}
        >
          Parts, CSV
        </Button>
        <Button
          onClick={() => {
            const inp = writeInp(map, lineup);
            setReport(inp.report);
            saveFile(`${map.id}.inp`, inp.text, "text/plain");
          }}
        >
          Water side, INP
        </Button>
        <Button
          onClick={() =>
            saveFile(
              `${map.id}.svg`,
              writeSvg(map, { lineup, ...(layout ? { layout } : {}) }),
              "image/svg+xml",
            )
          }
        >
          Drawing, SVG
        </Button>
      </div>
      {report.length > 0 && (
        <div
          role="status"
          className="mt-2 max-h-40 overflow-auto border-l-4 border-line bg-ground p-3 text-[14px]"
        >
          <b>Not carried in the INP file:</b>
          <ul className="list-disc pl-5">
            {report.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
      <label className="mt-5 block text-[15px] font-semibold">
        In: a map (.json), a parts list (.csv) or a water side (.inp)
        <input
          type="file"
          accept=".json,.csv,.inp"
          className="mt-2 block min-h-11 w-full text-[15px]"
          onChange={(event) => {
            const file = event.target.files?.[0];
            setReading(undefined);
            if (file) void readFileOnto(file, map, lives).then(setReading);
            // The same file chosen again is read again.
            event.target.value = "";
          }}
        />
      </label>
      {reading && (
        <Reading
          reading={reading}
          onTake={() => {
            if (!reading.ok) return;
            onTake(reading.map, reading.lives);
            close();
          }}
        />
      )}
    </Sheet>
  );
};
