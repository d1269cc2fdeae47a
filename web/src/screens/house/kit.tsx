import { type KitItem, mayDo } from "@uppershed/contract";
import {
  KIT_KINDS,
  KIT_WORDS,
  type KitFactsGiven,
  kitFactsSchema,
  type KitKind,
} from "@uppershed/core/kit";
import { inMark, measuresOf, readNumber, type UnitSystem } from "@uppershed/core/quantity";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useAddKitMutation,
  useChangeKitMutation,
  useKitQuery,
  useMeQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { HouseNav } from "../../house/house-nav.tsx";
import { KIT_FIELDS, kitFieldText, kitInWords, readKitField } from "./kit-fields.ts";

type Typed = Record<string, string>;

const COUNTS = [
  ["here", "How many are here (jugs, bottles, pieces)"],
  ["least", "To be bought with fewer than"],
] as const;
const countText = (count: number | null | undefined, units: UnitSystem): string =>
  count === null || count === undefined ? "" : inMark(String(Number(count.toFixed(1))), units);

/** A thing of the kit to be written down or changed. */
const KitSheet = ({ item, onClose }: { item: KitItem | undefined; onClose: () => void }) => {
  const { system } = useUnits();
  const [id] = useState(uuid);
  const [add] = useAddKitMutation();
  const [change] = useChangeKitMutation();
  const facts = (item?.facts ?? {}) as unknown as Record<string, unknown>;
  const form = useForm<Typed>({
    defaultValues: {
      name: item?.name ?? "",
      note: item?.note ?? "",
      here: countText(item?.here, system),
      least: countText(item?.least, system),
      kind: item?.kind ?? "antifreeze",
      ...(item
        ? Object.fromEntries(
            KIT_FIELDS[item.kind].map((f) => [f.name, kitFieldText(f, facts, system)]),
          )
        : {}),
    },
  });
  const kind = useWatch({ control: form.control, name: "kind" }) as KitKind;
  const { errors } = form.formState;
  const act = async (typed: Typed): Promise<string | undefined> => {
    const given: Record<string, unknown> = { kind };
    for (const field of KIT_FIELDS[kind]) {
      const text = typed[field.name] ?? "";
      // What is shown is rounded: a figure that nobody touched stays what it is.
      const read =
        item && text === kitFieldText(field, facts, system)
          ? ({ ok: true, value: facts[field.name] } as const)
          : readKitField(field, text, system);
      if (!read.ok) return `${field.label}: ${read.problem}`;
      if (read.value !== undefined) given[field.name] = read.value;
    }
    const whole = kitFactsSchema.safeParse(given);
    if (!whole.success) {
      const [issue] = whole.error.issues;
      const label = KIT_FIELDS[kind].find((f) => f.name === issue?.path[0])?.label;
      return label ? `${label}: ${issue?.message}` : issue?.message;
    }
    const counts: Record<string, number | null> = {};
    for (const [name, label] of COUNTS) {
      const text = (typed[name] ?? "").trim();
      const read = readNumber(text, measuresOf(system).mark);
      if (text !== "" && (!read.ok || read.length !== text.length || read.value < 0))
        return `${label}: a number, or nothing.`;
      // What is shown is rounded: a count that nobody touched stays what it is.
      const kept = item?.[name] ?? null;
      counts[name] =
        text === countText(kept, system) ? kept : text === "" || !read.ok ? null : read.value;
    }
    const common = {
      name: (typed["name"] ?? "").trim(),
      note: typed["note"] ?? "",
      here: counts["here"] ?? null,
      least: counts["least"] ?? null,
    };
    const reply = item
      ? await change({ id: item.id, change: { ...common, facts: given as KitFactsGiven } })
      : await add({ id, ...common, facts: given as KitFactsGiven });
    return reply.error && problemText(reply.error);
  };
  return (
    <Sheet open onClose={onClose} title={item ? item.name : "A thing for the kit"}>
      <SheetForm form={form} act="Keep" onAct={act} onClose={onClose}>
        <div className="grid gap-3 sm:grid-cols-2">
          {!item && (
            <label className="block text-[15px] font-semibold">
              Kind
              <select className="field mt-1 w-full font-normal" {...form.register("kind")}>
                {KIT_KINDS.map((k) => (
                  <option key={k} value={k}>
                    {KIT_WORDS[k]}
                  </option>
                ))}
              </select>
            </label>
          )}
          <Field
            label="Name"
            maxLength={80}
            problem={errors["name"]?.message}
            {...form.register("name", {
              validate: (t = "") => t.trim() !== "" || "Give it a name.",
            })}
          />
          {KIT_FIELDS[kind].map((field) =>
            typeof field.is === "string" ? (
              <Field
                key={`${kind} ${field.name}`}
                label={field.label}
                type={field.is === "day" ? "date" : "text"}
                placeholder={field.hint}
                {...form.register(field.name)}
              />
            ) : (
              <label key={`${kind} ${field.name}`} className="block text-[15px] font-semibold">
                {field.label}
                <select
                  className="field mt-1 w-full font-normal"
                  {...form.register(field.name, {
                    value: (facts[field.name] as string) ?? field.is[0]?.[0],
                  })}
                >
                  {field.is.map(([value, label]) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
            ),
          )}
          {COUNTS.map(([name, label]) => (
            <Field
              key={name}
              label={label}
              inputMode="decimal"
              maxLength={20}
              {...form.register(name)}
            />
          ))}
          <Field label="Note" maxLength={300} {...form.register("note")} />
        </div>
      </SheetForm>
    </Sheet>
  );
};

/** What the workshop owns: plans choose from it, and say what it lacks. */
export const KitScreen = () => {
  useTitle("Kit");
  const { data: me } = useMeQuery();
  const { data, error } = useKitQuery();
  const [change] = useChangeKitMutation();
  const [open, setOpen] = useState<KitItem | "new">();
  const { system, text } = useUnits();
  if (!me || !data) return <Waiting error={error} />;
  const mayChange = mayDo(me.person.role, "stock");
  const kinds = KIT_KINDS.filter((kind) => data.kit.some((k) => k.kind === kind));
  return (
    <div className="mx-auto max-w-4xl p-5">
      <HouseNav role={me.person.role} />
      <div className="mt-3 flex items-end justify-between">
        <h1 className="text-2xl font-bold">Kit</h1>
        {mayChange && <Button onClick={() => setOpen("new")}>Add a thing</Button>}
      </div>
      <p className="max-w-3xl text-[15px]">
        Products, bottles, instruments and tools of the workshop. A plan offers its antifreeze, and
        says what of the things to carry is not here.
      </p>
      {kinds.length === 0 && <p className="mt-3 text-muted">Nothing written down yet.</p>}
      {kinds.map((kind) => (
        <section key={kind} aria-label={KIT_WORDS[kind]} className="mt-5">
          <h2 className="border-b-2 border-green text-[16px] font-bold">{KIT_WORDS[kind]}</h2>
          <ul>
            {data.kit
              .filter((k) => k.kind === kind)
              .map((item) => (
                <li
                  key={item.id}
                  className="flex flex-wrap items-start gap-x-4 gap-y-1 border-b border-line py-2"
                >
                  <div className="min-w-0 flex-1 basis-72">
                    <b>{item.name}</b>
                    {item.givenUp && " (not here any more)"}
                    {item.here !== null && !item.givenUp && (
                      <span className="text-muted">, {countText(item.here, system)} here</span>
                    )}
                    <span className="block text-[14px]">{kitInWords(item.facts, system)}</span>
                    {item.note && <span className="block text-[14px] text-muted">{item.note}</span>}
                    {item.warnings.map((w) => (
                      <span
                        key={w}
                        className="mt-1 block border-l-4 border-rust bg-rust-soft px-2 py-1 text-[14px]"
                      >
                        {text(w)}
                      </span>
                    ))}
                  </div>
                  {mayChange && (
                    <span className="flex gap-2">
                      <Button onClick={() => setOpen(item)}>Change</Button>
                      <Button
                        onClick={() =>
                          void change({ id: item.id, change: { givenUp: !item.givenUp } })
                        }
                      >
                        {item.givenUp ? "Here again" : "Not here any more"}
                      </Button>
                    </span>
                  )}
                </li>
              ))}
          </ul>
        </section>
      ))}
      {open !== undefined && (
        <KitSheet item={open === "new" ? undefined : open} onClose={() => setOpen(undefined)} />
      )}
    </div>
  );
};
