import { wholeLetters } from "@uppershed/core/quantity";
import {
  paramSchema,
  changePart,
  connect,
  duplicate,
  type Edited,
  type End,
  kindOfPart,
  openPorts,
  PART_KINDS,
  type Part,
  type PartChange,
  paramsOf,
  removePart,
  runAtPort,
  type WaterMap,
} from "@uppershed/core/watermap";
import { Copy, Trash2 } from "lucide-react";
import { Button } from "../ui/button.tsx";
import { Choice, Field, QuantityField } from "./field.tsx";
import { PlateFrame } from "./plate-frame.tsx";

export type Edit = (edit: (map: WaterMap) => Edited | WaterMap) => void;

const DIMENSION: Record<string, { dimension: "volume" | "length" | "pressure"; scale: number }> = {
  L: { dimension: "volume", scale: 1000 },
  m: { dimension: "length", scale: 1 },
  Pa: { dimension: "pressure", scale: 1 },
};

const Params = ({ part, edit }: { part: Part; edit: Edit }) => {
  const kind = kindOfPart(part);
  const values = paramsOf(part);
  const set = (name: string, value: number | string | boolean): string | undefined => {
    const spec = kind.params[name];
    const parsed = spec && paramSchema(spec).safeParse(value);
    if (!parsed?.success) return parsed?.error.issues[0]?.message ?? "not allowed";
    edit((map) => changePart(map, part.id, { params: { [name]: value } }));
    return undefined;
  };
  return Object.entries(kind.params).map(([name, spec]) => {
    const value = values[name];
    const assumed = part.params[name] === undefined || part.assumed === true;
    if (typeof value === "boolean")
      return (
        <Choice
          key={name}
          label={spec.label}
          value={value ? "yes" : "no"}
          options={[
            { value: "yes", label: "yes" },
            { value: "no", label: "no" },
          ]}
          onChoose={(chosen) => set(name, chosen === "yes")}
        />
      );
    const quantity = DIMENSION[spec.unit ?? ""];
    if (typeof value === "number" && quantity)
      return (
        <QuantityField
          key={name}
          label={spec.label}
          si={value / quantity.scale}
          dimension={quantity.dimension}
          assumed={assumed}
          onRead={(si) => set(name, Number((si * quantity.scale).toPrecision(6)))}
        />
      );
    if (spec.takes.is === "one of")
      return (
        <Choice
          key={name}
          label={spec.label}
          value={String(value)}
          options={spec.takes.words.map((o) => ({ value: o, label: o }))}
          onChoose={(chosen) => set(name, chosen)}
        />
      );
    return (
      <Field
        key={name}
        label={spec.label}
        value={String(value)}
        onRead={(text) =>
          set(name, typeof value === "number" ? Number(text.replace(",", ".")) : text)
        }
      />
    );
  });
};

/** Every open port of other parts, and every pipe, that a port could be joined to by keyboard. */
const targetsFor = (map: WaterMap, from: End): { value: string; label: string; end: End }[] =>
  map.parts
    .filter((p) => p.id !== from.part)
    .flatMap((p) =>
      openPorts(map, p).map((port) => ({
        value: `${p.id}.${port.name}`,
        label: `${p.name}, ${port.name}`,
        end: { part: p.id, port: port.name },
      })),
    );

const Ports = ({ map, part, edit }: { map: WaterMap; part: Part; edit: Edit }) => {
  const ports = kindOfPart(part).anatomy(paramsOf(part)).ports;
  const name = (id: string): string => map.parts.find((p) => p.id === id)?.name ?? id;
  return (
    <details className="mt-2 border-t border-line pt-2">
      <summary className="min-h-11 content-center text-[15px] font-semibold">Ports</summary>
      <ul>
        {ports.map((port) => {
          const end = { part: part.id, port: port.name };
          const run = runAtPort(map, end);
          if (run) {
            const other = run.from.part === part.id ? run.to : run.from;
            return (
              <li key={port.name} className="flex min-h-9 items-center gap-2 text-[14px]">
                <b className="w-20">{port.name}</b> to {name(other.part)}
              </li>
            );
          }
          const targets = targetsFor(map, end);
          return (
            <li key={port.name}>
              <Choice
                label={port.name}
                value=""
                options={[
                  { value: "", label: port.optional ? "open (may be)" : "open: pipe it to …" },
                  ...targets,
                ]}
                onChoose={(value) => {
                  const target = targets.find((t) => t.value === value);
                  if (target) edit((now) => connect(now, end, target.end));
                }}
              />
            </li>
          );
        })}
      </ul>
    </details>
  );
};

const KNOWN = [
  { value: "known", label: "known" },
  { value: "fitted", label: "not known: is it fitted?" },
  { value: "role", label: "not known: what does it do?" },
];

/** A part's plate where the map is drawn: everything about it can be said here. */
export const PartPlate = ({
  map,
  part,
  edit,
  right = false,
  onClose,
  onSelect,
}: {
  map: WaterMap;
  part: Part;
  edit: Edit;
  right?: boolean;
  onClose: () => void;
  onSelect: (id: string | undefined) => void;
}) => {
  const kind = kindOfPart(part);
  const change = (wanted: PartChange): undefined => {
    edit((now) => changePart(now, part.id, wanted));
    return undefined;
  };
  const text = (field: "tag" | "place" | "access", most: number) => (value: string) =>
    value.length > most
      ? `At most ${most} letters.`
      : change({ [field]: value === "" ? null : value });
  return (
    <PlateFrame right={right} name={part.name} tag={part.tag} onClose={onClose}>
      <p className="text-[14px] text-muted">
        {kind.label}
        {part.assumed && " · figures assumed"}
      </p>
      <div className="mt-2">
        <Field
          label="Name"
          value={part.name}
          onRead={(name) =>
            name === "" ? "It needs a name." : change({ name: wholeLetters(name, 60) })
          }
        />
        <Field label="Tag" value={part.tag ?? ""} onRead={text("tag", 8)} />
        <Field
          label="Place"
          value={part.place ?? ""}
          list={map.places}
          onRead={text("place", 60)}
        />
        <Field label="Access" value={part.access ?? ""} onRead={text("access", 120)} />
        <QuantityField
          label="Height"
          si={part.heightM}
          dimension="length"
          assumed={part.assumed === true}
          onRead={(heightM) =>
            heightM < -10 || heightM > 20
              ? "Between −10 and 20 m."
              : change({ heightM: Number(heightM.toFixed(3)) })
          }
        />
        <Params part={part} edit={edit} />
        <Choice
          label="Known?"
          value={part.unknown?.of ?? "known"}
          options={KNOWN}
          onChoose={(value) =>
            change({ unknown: value === "known" ? null : { of: value as "fitted" | "role" } })
          }
        />
        {part.unknown && (
          <Field
            label="Find out by"
            value={part.unknown.ask ?? ""}
            onRead={(ask) =>
              change({
                unknown: {
                  of: part.unknown?.of ?? "fitted",
                  ...(ask ? { ask: wholeLetters(ask, 200) } : {}),
                },
              })
            }
          />
        )}
        <Choice
          label="Kind"
          value={part.kind}
          options={[...PART_KINDS.values()].map((k) => ({ value: k.kind, label: k.label }))}
          onChoose={(chosen) => change({ kind: chosen })}
        />
      </div>
      <Ports map={map} part={part} edit={edit} />
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={() => edit((now) => duplicate(now, part.id))}>
          <Copy aria-hidden size={17} /> Duplicate
        </Button>
        <Button
          look="rust"
          onClick={() => {
            edit((now) => removePart(now, part.id));
            onSelect(undefined);
          }}
        >
          <Trash2 aria-hidden size={17} /> Take out
        </Button>
      </div>
      <p className="mt-3 text-[13px] text-muted">{kind.about}</p>
    </PlateFrame>
  );
};
