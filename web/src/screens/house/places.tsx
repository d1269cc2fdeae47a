import { mayDo, type Place, PLACE_KINDS } from "@uppershed/contract";
import { formatQuantity, parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useAddPlaceMutation,
  useBringForecastMutation,
  useChangePlaceMutation,
  useMeQuery,
  usePlacesQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { AreaField, Choices, Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { HouseNav } from "../../house/house-nav.tsx";

const KIND_WORDS: Readonly<Record<(typeof PLACE_KINDS)[number], string>> = {
  yard: "Yard",
  bay: "Bay",
  mooring: "Mooring",
  customers: "Customer's place",
};

const EMPTY = {
  name: "",
  kind: "yard" as Place["kind"],
  winterLow: "",
  firstFrost: "",
  lastFrost: "",
  height: "",
  wasteTo: "",
  antifreezeTo: "",
  chlorineTo: "",
};
type Typed = typeof EMPTY;

const typedFrom = (place: Place, units: UnitSystem): Typed => ({
  name: place.name,
  kind: place.kind,
  winterLow: formatQuantity(place.winterLowC, "temperature", units),
  firstFrost: place.firstFrost ?? "",
  lastFrost: place.lastFrost ?? "",
  height: place.heightM === null ? "" : formatQuantity(place.heightM, "length", units),
  wasteTo: place.wasteTo,
  antifreezeTo: place.antifreezeTo,
  chlorineTo: place.chlorineTo,
});

const DAY = /^(?:(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01]))?$/u;

/** A place to be written down or changed. */
const PlaceSheet = ({ place, onClose }: { place: Place | undefined; onClose: () => void }) => {
  const { system } = useUnits();
  const [id] = useState(uuid);
  const [add] = useAddPlaceMutation();
  const [change] = useChangePlaceMutation();
  const before = place ? typedFrom(place, system) : undefined;
  const form = useForm<Typed>({ defaultValues: before ?? EMPTY });
  const { errors } = form.formState;
  const quantity = (dimension: "temperature" | "length", text: string): string | true => {
    if (text.trim() === "") return dimension === "length" || "How cold does it get there?";
    const read = parseQuantity(text, dimension, system);
    if (!read.ok) return read.problem;
    return dimension !== "temperature" || (read.quantity.si >= -50 && read.quantity.si <= 0)
      ? true
      : "At or below freezing, and no lower than −50 °C, where the antifreeze tables end.";
  };
  /** What is shown is rounded: a figure that nobody touched stays what it is. */
  const si = (
    dimension: "temperature" | "length",
    text: string,
    was: { readonly text: string | undefined; readonly value: number | null | undefined },
  ): number | null => {
    if (was.value !== undefined && was.text === text) return was.value;
    const read = parseQuantity(text, dimension, system);
    return read.ok ? read.quantity.si : null;
  };
  const act = async (typed: Typed): Promise<string | undefined> => {
    const facts = {
      name: typed.name.trim(),
      kind: typed.kind,
      winterLowC:
        si("temperature", typed.winterLow, {
          text: before?.winterLow,
          value: place?.winterLowC,
        }) ?? 0,
      firstFrost: typed.firstFrost.trim() || null,
      lastFrost: typed.lastFrost.trim() || null,
      heightM: si("length", typed.height, { text: before?.height, value: place?.heightM }),
      wasteTo: typed.wasteTo,
      antifreezeTo: typed.antifreezeTo,
      chlorineTo: typed.chlorineTo,
    };
    const reply = place
      ? await change({ id: place.id, change: facts })
      : await add({ id: id, ...facts });
    return reply.error && problemText(reply.error);
  };
  const frost = { validate: (t: string) => DAY.test(t.trim()) || "Month and day: 10-14." };
  return (
    <Sheet open onClose={onClose} title={place ? place.name : "A new place"}>
      <SheetForm form={form} act="Keep" onAct={act} onClose={onClose}>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field
            label="Name"
            maxLength={80}
            problem={errors.name?.message}
            {...form.register("name", {
              validate: (t) => t.trim() !== "" || "Give the place a name.",
            })}
          />
          <Field
            label="Winter low there"
            placeholder="−18 °C or 0 °F"
            problem={errors.winterLow?.message}
            {...form.register("winterLow", { validate: (t) => quantity("temperature", t) })}
          />
          <Choices
            of={PLACE_KINDS.map((value) => ({ value, label: KIND_WORDS[value] }))}
            each="flex gap-x-5 sm:col-span-2"
            {...form.register("kind")}
          />
          <Field
            label="First frost ever, month and day"
            placeholder="10-14"
            problem={errors.firstFrost?.message}
            {...form.register("firstFrost", frost)}
          />
          <Field
            label="Last frost ever"
            placeholder="04-28"
            problem={errors.lastFrost?.message}
            {...form.register("lastFrost", frost)}
          />
          <Field
            label="Height above the sea"
            problem={errors.height?.message}
            {...form.register("height", { validate: (t) => quantity("length", t) })}
          />
          <Field label="Waste may go" maxLength={300} {...form.register("wasteTo")} />
          <Field label="Antifreeze may go" maxLength={300} {...form.register("antifreezeTo")} />
          <Field
            label="Chlorinated water may go"
            maxLength={300}
            {...form.register("chlorineTo")}
          />
        </div>
      </SheetForm>
    </Sheet>
  );
};

/** A forecast of a place, out of a file or pasted. */
const ForecastSheet = ({ place, onClose }: { place: Place; onClose: () => void }) => {
  const [bring] = useBringForecastMutation();
  const form = useForm({ defaultValues: { text: "" } });
  return (
    <Sheet open onClose={onClose} title={`Forecast for ${place.name}`}>
      <SheetForm
        form={form}
        act="Keep it"
        onClose={onClose}
        onAct={async ({ text }) => {
          const reply = await bring({ placeId: place.id, text });
          return reply.error && problemText(reply.error);
        }}
      >
        <p>
          As CSV: a line a night, its date and its low. The heading names the degrees:{" "}
          <b>date,low C</b> or <b>date,low F</b>. Until one is brought, a stand-in is shown, and
          marked as simulated.
        </p>
        <AreaField
          label="The file's text"
          className="mt-2"
          rows={6}
          maxLength={20_000}
          placeholder={"date,low C\n2026-12-01,-3"}
          {...form.register("text", { validate: (t) => t.trim() !== "" || "Nothing is in it." })}
        />
        <label className="mt-2 block text-[15px]">
          <span className="mr-2 font-semibold">Or a file</span>
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void file.text().then((text) => form.setValue("text", text));
            }}
          />
        </label>
      </SheetForm>
    </Sheet>
  );
};

const Frosts = ({ place }: { place: Place }) => {
  const { firstFrost, lastFrost } = place;
  if (firstFrost === null && lastFrost === null) return null;
  return (
    <>
      {firstFrost !== null && ` First frost ever ${firstFrost}.`}
      {lastFrost !== null && ` Last ${lastFrost}.`}
    </>
  );
};

/** Where units stand, and how cold it gets there. */
export const PlacesScreen = () => {
  useTitle("Places");
  const { data: me } = useMeQuery();
  const { data, error } = usePlacesQuery();
  const [change] = useChangePlaceMutation();
  const [open, setOpen] = useState<Place | "new">();
  const [forecast, setForecast] = useState<Place>();
  const { q } = useUnits();
  if (!me || !data) return <Waiting error={error} />;
  const mayChange = mayDo(me.person.role, "house");
  const mayBook = mayDo(me.person.role, "book");
  return (
    <div className="mx-auto max-w-4xl p-5">
      <HouseNav role={me.person.role} />
      <div className="mt-3 flex items-end justify-between">
        <h1 className="text-2xl font-bold">Places</h1>
        {mayChange && <Button onClick={() => setOpen("new")}>Add a place</Button>}
      </div>
      <p className="max-w-3xl text-[15px]">
        A unit's plan goes by the winter low of its place. Where no place is written down, by the
        workshop's own: {q(me.workshop.winterLowC, "temperature")}.
      </p>
      <ul aria-label="Places" className="mt-3">
        {data.places.map((place) => (
          <li
            key={place.id}
            className="flex flex-wrap items-start gap-x-4 gap-y-1 border-b border-line py-3"
          >
            <div className="min-w-0 flex-1 basis-72">
              <b>{place.name}</b>
              {place.givenUp && " (given up)"}
              <span className="text-muted">
                , {KIND_WORDS[place.kind].toLowerCase()},{" "}
                {place.units === 1 ? "1 unit" : `${place.units} units`}
              </span>
              <span className="block text-[14px]">
                <Frosts place={place} />
                {place.heightM !== null && ` ${q(place.heightM, "length")} above the sea.`}
                {place.wasteTo && ` Waste: ${place.wasteTo}.`}
                {place.antifreezeTo && ` Antifreeze: ${place.antifreezeTo}.`}
                {place.chlorineTo && ` Chlorinated water: ${place.chlorineTo}.`}
              </span>
            </div>
            <span className="text-[19px] font-bold">{q(place.winterLowC, "temperature")}</span>
            {mayBook && !place.givenUp && (
              <Button onClick={() => setForecast(place)}>Forecast</Button>
            )}
            {mayChange && (
              <span className="flex gap-2">
                <Button onClick={() => setOpen(place)}>Change</Button>
                <Button
                  onClick={() => void change({ id: place.id, change: { givenUp: !place.givenUp } })}
                >
                  {place.givenUp ? "Take up again" : "Give up"}
                </Button>
              </span>
            )}
          </li>
        ))}
        {data.places.length === 0 && <li className="py-3 text-muted">None written down yet.</li>}
      </ul>
      {forecast && <ForecastSheet place={forecast} onClose={() => setForecast(undefined)} />}
      {open !== undefined && (
        <PlaceSheet place={open === "new" ? undefined : open} onClose={() => setOpen(undefined)} />
      )}
    </div>
  );
};
