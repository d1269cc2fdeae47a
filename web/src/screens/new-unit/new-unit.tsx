import { zodResolver } from "@hookform/resolvers/zod";
import { startingContents } from "@uppershed/core/contents";
import { buildScene } from "@uppershed/core/drawing";
import { mapFromPattern, type Pattern, type QuestionId } from "@uppershed/core/patterns";
import { copyForSibling } from "@uppershed/core/survey";
import {
  buildNetwork,
  inUseLineup,
  readWaterMap,
  slug,
  undrawnMap,
  type WaterMap,
} from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useLayout } from "../../mapping/use-chart.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { type FieldErrors, useForm, type UseFormRegister } from "react-hook-form";
import { useNavigate, useSearchParams } from "react-router";
import { z } from "zod";
import { PaperMap } from "../../drawing/map-drawing.tsx";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useAddUnitMutation,
  useMapQuery,
  useSaveMapMutation,
  useUnitQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { PatternList } from "./pattern-list.tsx";
import { Questions } from "./questions.tsx";

const formSchema = z.object({
  name: z.string().trim().min(1, "Give the unit a name.").max(80),
  craft: z.string().trim().max(60),
  owner: z.string().trim().min(1, "Say whose it is.").max(80),
  phone: z.string().trim().max(40),
  plate: z.string().trim().max(40),
  hull: z.string().trim().max(40),
  berth: z.string().trim().max(80),
});
type Form = z.infer<typeof formSchema>;

const FIELDS = [
  ["name", "Name of the unit", 80],
  ["owner", "Owner", 80],
  ["phone", "Phone", 40],
  ["plate", "Plate", 40],
  ["hull", "Hull or chassis number", 40],
  ["berth", "Lies at", 80],
  ["craft", "What it is", 60],
] as const;

const Preview = ({ map }: { map: WaterMap }) => {
  const layout = useLayout(map);
  const scene = useMemo(() => {
    if (!layout) return undefined;
    const network = buildNetwork(map);
    return buildScene(network, startingContents(network), inUseLineup(network), layout);
  }, [map, layout]);
  const unknown = map.parts.filter((p) => p.unknown).length;
  return (
    <figure>
      <div className="[&>svg]:max-h-[56vh]">
        {scene ? <PaperMap scene={scene} name={map.name} /> : <Waiting />}
      </div>
      <figcaption className="mt-1 text-[14px] text-muted">
        {map.parts.length} parts{unknown > 0 && `, ${unknown} of them not known yet (marked ?)`}.
        Lengths and volumes are typical until they are typed.
      </figcaption>
    </figure>
  );
};

/** Who and what it is. */
const UnitFields = ({
  hidden,
  register,
  errors,
  craft,
}: {
  hidden: boolean;
  register: UseFormRegister<Form>;
  errors: FieldErrors<Form>;
  /** What it is called where nothing is typed. */
  craft: string;
}) => (
  <fieldset hidden={hidden} className="mt-5 grid gap-3 border-t border-line pt-4 sm:grid-cols-2">
    <legend className="sr-only">The unit</legend>
    {FIELDS.map(([field, label, most]) => (
      <label key={field} className="block text-[15px]">
        <span className="font-semibold">{label}</span>
        <input
          className="field mt-1 w-full"
          maxLength={most}
          placeholder={field === "craft" ? craft : ""}
          aria-invalid={errors[field] ? true : undefined}
          {...register(field)}
        />
        {errors[field] && (
          <span role="alert" className="block text-[14px] text-rust">
            {errors[field].message}
          </span>
        )}
      </label>
    ))}
  </fieldset>
);

/** The sister whose map is copied, and that map. */
const useSister = (sisterId: string | undefined) => {
  const skip = sisterId === undefined;
  const { data: sister } = useUnitQuery(sisterId ?? "", { skip });
  const { data: sisterMap } = useMapQuery(sisterId ?? "", { skip });
  const template = useMemo(() => {
    const read = sisterMap ? readWaterMap(sisterMap.document) : undefined;
    return read?.ok ? read.map : undefined;
  }, [sisterMap]);
  return { sister, template };
};

/** What is asked of a family, and where its like is got wrong. */
const OfFamily = (of: Parameters<typeof Questions>[0]) => (
  <>
    <Questions {...of} />
    <p className="my-3 border-l-4 border-rust bg-rust-soft px-3 py-2 text-[14px]">
      {of.pattern.trap}
    </p>
  </>
);

/** Take in a unit: a family and a few answers make its first map, or a sister's map is copied. */
export const NewUnit = () => {
  useTitle("New unit");
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const sisterId = params.get("sister") ?? undefined;
  const booking = params.get("then") === "book";
  // A unit that is here already, and has no map yet.
  const forId = params.get("for") ?? undefined;
  const { data: known } = useUnitQuery(forId ?? "", { skip: forId === undefined });
  const [saveMap, saving] = useSaveMapMutation();
  const { sister, template } = useSister(sisterId);
  const [pattern, setPattern] = useState<Pattern>();
  const [answers, setAnswers] = useState<Partial<Record<QuestionId, string>>>({});
  const [addUnit, adding] = useAddUnitMutation();
  // Pressed again it is still one unit.
  const [newId] = useState(uuid);
  const {
    register,
    handleSubmit,
    formState: { errors },
  } = useForm<Form>({
    resolver: zodResolver(formSchema),
    defaultValues: { name: "", craft: "", owner: "", phone: "", plate: "", hull: "", berth: "" },
  });
  const preview = useMemo(() => {
    if (template) return template;
    if (!pattern) return undefined;
    return mapFromPattern(pattern, answers, {
      id: "preview",
      name: pattern.label,
      craft: pattern.craft,
    });
  }, [template, pattern, answers]);

  // On the telephone nobody knows the pipes: it is taken in without a map, and drawn when it is here.
  const undrawn = booking && !preview;
  const drawKnown = async (): Promise<void> => {
    if (!known || !preview) return;
    const document = { ...preview, id: slug(known.name), name: known.name, craft: known.craft };
    const reply = await saveMap({
      id: known.id,
      asked: { basedOn: known.mapRevision, why: "Drawn from a family", document },
    });
    if (!reply.error) void navigate(`/units/${known.id}/map`);
  };
  const start = handleSubmit(async (form) => {
    if (!preview && !undrawn) return;
    const craft = form.craft || template?.craft || pattern?.craft || "unit";
    const head = { id: slug(form.name), name: form.name, craft };
    const document = undrawn
      ? undrawnMap(head)
      : template
        ? copyForSibling(template, head)
        : { ...preview, ...head };
    const reply = await addUnit({
      id: newId,
      ...form,
      craft,
      document,
      why: undrawn
        ? "Taken in, not drawn yet"
        : sister
          ? `Copied from ${sister.name}`
          : "Drawn at intake from a family",
      ...(sister ? { siblingOf: sister.id } : {}),
    });
    if (reply.error) return;
    void navigate(booking ? `/visits/new?unit=${reply.data.id}` : `/units/${reply.data.id}/map`);
  });

  return (
    <form
      onSubmit={(event) => {
        if (!forId) return void start(event);
        event.preventDefault();
        void drawKnown();
      }}
      className="mx-auto grid max-w-7xl gap-6 p-5 lg:grid-cols-[360px_1fr]"
      noValidate
    >
      <div>
        <h1 className="mb-3 text-2xl font-bold">
          {known ? `The map of ${known.name}` : sister ? `A sister of ${sister.name}` : "New unit"}
        </h1>
        {sisterId === undefined && (
          <PatternList
            chosen={pattern}
            onChoose={(next) => {
              setPattern(next);
              setAnswers({});
            }}
          />
        )}
        {sister && (
          <p>
            Its map is copied as it stands at revision {sister.mapRevision}; what differs can then
            be drawn.
          </p>
        )}
      </div>
      <div className="min-w-0">
        {preview && (
          <>
            {pattern && !template && (
              <OfFamily
                pattern={pattern}
                answers={answers}
                onAnswer={(id, value) => setAnswers((now) => ({ ...now, [id]: value }))}
              />
            )}
            <Preview map={preview} />
          </>
        )}
        {!preview && (
          <p className="text-muted">
            Choose a family: its map is drawn here, and each answer changes it.
            {booking && " Not known yet? Leave it open; the map is drawn when the unit is here."}
          </p>
        )}
        <UnitFields
          hidden={forId !== undefined}
          register={register}
          errors={errors}
          craft={template?.craft ?? pattern?.craft ?? ""}
        />
        {(adding.error ?? saving.error) && (
          <p role="alert" className="mt-3 text-rust">
            {problemText(adding.error ?? saving.error)}
          </p>
        )}
        <Button
          type="submit"
          look="act"
          big
          className="mt-4"
          disabled={(!preview && !undrawn) || adding.isLoading || saving.isLoading}
        >
          {booking ? "Take it in, then book" : "Start the map"}
        </Button>
      </div>
    </form>
  );
};
