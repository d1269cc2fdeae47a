import { wholeLetters } from "@uppershed/core/quantity";
import {
  HEATED_HOSE_C,
  cellName,
  changePart,
  changePipeRun,
  type Network,
  PIPE_SYSTEMS,
  type PipeRun,
  RUN_SERVICES,
  type PipeRunChange,
  removePipeRun,
  type WaterMap,
  pipeCellId,
} from "@uppershed/core/watermap";
import { Trash2 } from "lucide-react";
import { useEffect } from "react";
import { Button } from "../ui/button.tsx";
import { useUnits } from "../ui/units.ts";
import { capital } from "../ui/words.ts";
import { Choice, Field, QuantityField } from "./field.tsx";
import type { Edit } from "./part-plate.tsx";
import { PlateFrame } from "./plate-frame.tsx";

const FAMILIES = [...new Set([...PIPE_SYSTEMS.values()].map((p) => p.family))];

interface OfRun {
  readonly run: PipeRun;
  readonly change: (wanted: PipeRunChange) => undefined;
}

const PipeChoice = ({ run, change }: OfRun) => (
  <div className="flex items-center gap-2 py-1">
    <label htmlFor="run-pipe" className="w-24 shrink-0 text-[14px] text-muted">
      Pipe
    </label>
    <select
      id="run-pipe"
      className="field min-w-0 flex-1"
      value={run.pipe}
      onChange={(e) => change({ pipe: e.target.value })}
    >
      {FAMILIES.map((name) => (
        <optgroup key={name} label={capital(name)}>
          {[...PIPE_SYSTEMS.values()]
            .filter((p) => p.family === name)
            .map((p) => (
              <option key={p.pipe} value={p.pipe}>
                {p.label}
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  </div>
);

/** How high the pipe lies at the part on one of its ends: that part's own height. */
const HeightAt = ({ map, end, edit }: { map: WaterMap; end: PipeRun["from"]; edit: Edit }) => {
  const part = map.parts.find((p) => p.id === end.part);
  if (!part) return null;
  return (
    <QuantityField
      label={wholeLetters(`At ${part.name}`, 22)}
      si={part.heightM}
      dimension="length"
      assumed={part.assumed === true}
      onRead={(heightM) => {
        if (heightM < -10 || heightM > 20) return "Between −10 and 20 m.";
        edit((now) => changePart(now, part.id, { heightM: Number(heightM.toFixed(3)) }));
        return undefined;
      }}
    />
  );
};

const NEW_DIP = { depthM: 0.05, lengthM: 0.4 };

/** Whether the pipe hangs below both its ends, how far, and how much of it. */
const Dip = ({ run, change }: OfRun) => {
  const { sag } = run;
  return (
    <>
      <Choice
        label="Dip"
        value={sag ? "yes" : "no"}
        options={[
          { value: "no", label: "falls all the way" },
          { value: "yes", label: "hangs below both ends" },
        ]}
        onChoose={(value) => {
          const lengthM = Math.max(0.02, Math.min(NEW_DIP.lengthM, run.lengthM));
          change({ sag: value === "yes" ? { ...NEW_DIP, lengthM } : null });
        }}
      />
      {sag && (
        <>
          <QuantityField
            label="Dip depth"
            si={sag.depthM}
            dimension="length"
            onRead={(depthM) =>
              depthM < 0.01 || depthM > 5
                ? "Between 1 cm and 5 m."
                : change({ sag: { ...sag, depthM } })
            }
          />
          <QuantityField
            label="Pipe in it"
            si={sag.lengthM}
            dimension="length"
            onRead={(lengthM) =>
              lengthM < 0.02 || lengthM > run.lengthM
                ? "No longer than the pipe."
                : change({ sag: { ...sag, lengthM } })
            }
          />
        </>
      )}
    </>
  );
};

type Warmth = "bare" | "insulated" | "heated" | "rated";

const warmthOf = (run: PipeRun): Warmth => {
  if (run.ratedToC !== undefined) return "rated";
  if (run.heated) return "heated";
  return run.insulated ? "insulated" : "bare";
};

/** What keeps the pipe from the cold. */
const Warm = ({ run, change }: OfRun) => (
  <>
    <Choice
      label="Warm?"
      value={warmthOf(run)}
      options={[
        { value: "bare", label: "bare, unheated space" },
        { value: "insulated", label: "insulated" },
        { value: "heated", label: "inside heated space" },
        { value: "rated", label: "by its own heat" },
      ]}
      onChoose={(value) =>
        change({
          heated: value === "heated",
          insulated: value !== "bare",
          ratedToC: value === "rated" ? HEATED_HOSE_C : null,
        })
      }
    />
    {run.ratedToC !== undefined && (
      <QuantityField
        label="Rated to"
        si={run.ratedToC}
        dimension="temperature"
        onRead={(ratedToC) =>
          ratedToC < -60 || ratedToC > -1
            ? "Between −60 and −1 °C, as its label says."
            : change({ ratedToC })
        }
      />
    )}
  </>
);

/** The plate of a pipe: its length is typed as soon as it is tapped. */
export const RunPlate = ({
  map,
  network,
  run,
  edit,
  right = false,
  onClose,
  onSelect,
}: {
  map: WaterMap;
  network: Network;
  run: PipeRun;
  edit: Edit;
  right?: boolean;
  onClose: () => void;
  onSelect: (id: string | undefined) => void;
}) => {
  const { q } = useUnits();
  // A pipe is tapped to type its length.
  useEffect(() => {
    const input = document.getElementById("run-length");
    if (input instanceof HTMLInputElement) input.select();
  }, []);
  const index = network.cellIndex.get(pipeCellId(run.id)) ?? -1;
  const cell = network.cells[index];
  const change = (wanted: PipeRunChange): undefined => {
    edit((now) => changePipeRun(now, run.id, wanted));
    return undefined;
  };
  const takeOut = (): void => {
    edit((now) => removePipeRun(now, run.id));
    onSelect(undefined);
  };
  return (
    <PlateFrame right={right} name={capital(cellName(network, index))} onClose={onClose}>
      <p className="text-[14px] text-muted">
        Holds {q(cell?.capacityM3 ?? 0, "volume")} (worked out: bore{" "}
        {((PIPE_SYSTEMS.get(run.pipe)?.boreM ?? 0) * 1000).toFixed(1)} mm by length)
      </p>
      <div className="mt-2">
        <QuantityField
          label="Length"
          si={run.lengthM}
          dimension="length"
          assumed={run.assumed === true}
          inputId="run-length"
          onRead={(lengthM) =>
            lengthM < 0.01 || lengthM > 200
              ? "Between 1 cm and 200 m."
              : change({ lengthM: Number(lengthM.toFixed(3)) })
          }
        />
        <PipeChoice run={run} change={change} />
        <Choice
          label="Carries"
          value={run.service}
          options={RUN_SERVICES.map((value) => ({ value, label: value }))}
          onChoose={(service) => change({ service: service as PipeRun["service"] })}
        />
        <Field
          label="Name"
          value={run.name ?? ""}
          onRead={(name) => change({ name: name === "" ? null : wholeLetters(name, 60) })}
        />
        <p className="mt-2 text-[14px] font-semibold">Heights</p>
        <HeightAt map={map} end={run.from} edit={edit} />
        <HeightAt map={map} end={run.to} edit={edit} />
        <Dip run={run} change={change} />
        <Warm run={run} change={change} />
      </div>
      <div className="mt-3">
        <Button look="rust" onClick={takeOut}>
          <Trash2 aria-hidden size={17} /> Take the pipe out
        </Button>
      </div>
    </PlateFrame>
  );
};
