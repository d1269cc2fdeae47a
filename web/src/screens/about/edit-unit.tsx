import { zodResolver } from "@hookform/resolvers/zod";
import { type Unit, unitChangeSchema } from "@uppershed/contract";
import { useDeferredValue, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useNavigate, useParams } from "react-router";
import { MergeSheet } from "../../register/merge-sheet.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useChangeUnitMutation,
  useCustomersQuery,
  useMergeUnitMutation,
  usePlacesQuery,
  useUnitQuery,
  useUnitsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

const FIELDS = [
  ["name", "Name of the unit", 80],
  ["craft", "What it is", 60],
  ["plate", "Plate", 40],
  ["hull", "Hull or chassis number", 40],
  ["berth", "Lies at", 80],
] as const;

const Doubles = ({ unit, onClose }: { unit: Unit; onClose: () => void }) => {
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const { data } = useUnitsQuery({ limit: 8, ...(find ? { find } : {}) });
  const [merge, merging] = useMergeUnitMutation();
  return (
    <MergeSheet
      title={`Which one is the same as ${unit.name}?`}
      listed="Units found"
      found={data?.units.filter((u) => u.id !== unit.id) ?? []}
      renderLine={(u) => (
        <>
          <b>{u.name}</b> {u.craft}, {u.owner} {u.plate}
        </>
      )}
      renderExplain={(u) => (
        <>
          The map of <b>{unit.name}</b> stays the map. Visits, signed sheets, looks and findings of{" "}
          {u.name} are read as part of its history, and its names and numbers still find it.
        </>
      )}
      words={words}
      setWords={setWords}
      error={merging.error}
      busy={merging.isLoading}
      onMerge={async (u) => !(await merge({ id: unit.id, double: u.id })).error}
      onClose={onClose}
    />
  );
};

const Form = ({ unit }: { unit: Unit }) => {
  const navigate = useNavigate();
  const [change, changing] = useChangeUnitMutation();
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const { data: places } = usePlacesQuery();
  const { q } = useUnits();
  const { data: owners } = useCustomersQuery(
    { limit: 6, ...(find ? { find } : {}) },
    { skip: find === "" },
  );
  const {
    register,
    handleSubmit,
    setValue,
    control,
    formState: { errors },
  } = useForm({
    resolver: zodResolver(unitChangeSchema),
    defaultValues: {
      name: unit.name,
      craft: unit.craft,
      plate: unit.plate,
      hull: unit.hull,
      berth: unit.berth,
      accessNote: unit.accessNote,
      placeId: unit.place?.placeId ?? null,
      customerId: unit.customerId,
    },
  });
  const owner = useWatch({ control, name: "customerId" });
  const keep = handleSubmit(async (form) => {
    const reply = await change({ id: unit.id, change: form });
    if (!reply.error) void navigate(`/units/${unit.id}`);
  });
  return (
    <form onSubmit={(event) => void keep(event)} noValidate className="grid gap-3 sm:grid-cols-2">
      {FIELDS.map(([name, label, most]) => (
        <Field
          key={name}
          label={label}
          maxLength={most}
          problem={errors[name]?.message}
          {...register(name)}
        />
      ))}
      <div>
        <Field
          label={`Owner: ${unit.owner}. Another one? Find`}
          maxLength={100}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <ul>
          {find !== "" &&
            owners?.customers.map((c) => (
              <li key={c.id}>
                <button
                  type="button"
                  aria-pressed={owner === c.id}
                  className={`min-h-11 w-full px-2 text-left ${owner === c.id ? "bg-green text-on-green" : "hover:bg-green-soft"}`}
                  onClick={() => setValue("customerId", c.id)}
                >
                  {c.name} {c.phone}
                </button>
              </li>
            ))}
        </ul>
      </div>
      <label className="block text-[15px]">
        <span className="font-semibold">Place: its winter low is the plan's</span>
        <select
          className="field mt-1 w-full"
          {...register("placeId", { setValueAs: (v: string | null) => v || null })}
        >
          <option value="">None: the workshop's own winter low</option>
          {places?.places
            .filter((p) => !p.givenUp || p.id === unit.place?.placeId)
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}, {q(p.winterLowC, "temperature")}
              </option>
            ))}
        </select>
      </label>
      <label className="block text-[15px] sm:col-span-2">
        <span className="font-semibold">
          Getting at its water parts: panels, keys, what must be moved
        </span>
        <textarea
          className="field mt-1 min-h-20 w-full py-2"
          maxLength={500}
          {...register("accessNote")}
        />
      </label>
      <div className="sm:col-span-2">
        {changing.error && (
          <p role="alert" className="mb-2 text-rust">
            {problemText(changing.error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={changing.isLoading}>
          Keep
        </Button>
      </div>
    </form>
  );
};

/** What is written of a unit beside its map: names, numbers, owner, how to get at it; and its doubles. */
export const EditUnit = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error } = useUnitQuery(unitId);
  const [merging, setMerging] = useState(false);
  const mayMerge = useMay("merge");
  useTitle(unit ? `About ${unit.name}` : "About a unit");
  if (!unit) return <Waiting error={error} />;
  return (
    <div className="mx-auto max-w-4xl p-5">
      <InBar>
        <BarLink to={`/units/${unitId}`}>
          <b>{unit.name}</b>
        </BarLink>
      </InBar>
      <h1 className="mb-3 text-2xl font-bold">About {unit.name}</h1>
      <Form key={unit.id} unit={unit} />
      {mayMerge && (
        <div className="mt-6 border-t border-line pt-4">
          <Button onClick={() => setMerging(true)}>
            Put a double of this unit together with it
          </Button>
        </div>
      )}
      {merging && <Doubles unit={unit} onClose={() => setMerging(false)} />}
    </div>
  );
};
