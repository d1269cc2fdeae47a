import { zodResolver } from "@hookform/resolvers/zod";
import type { DemoLoaded } from "@uppershed/contract";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, Navigate, useNavigate, useSearchParams } from "react-router";
import { z } from "zod";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useSetUpMutation, useSetUpNeededQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Door } from "../../ui/door.tsx";
import { ACT_LINK, Field } from "../../ui/field.tsx";
import { WorkshopFields } from "../../ui/workshop-fields.tsx";
import { NEW_WORKSHOP, workshopFormSchema } from "../../ui/workshop-form.ts";
import { Waiting } from "../../ui/waiting.tsx";

const leadSchema = z.object({
  code: z.string().trim().min(1, "Type the code that was printed where the server was started."),
  person: z.string().trim().min(1, "Give your name as it is to stand under what you sign.").max(80),
  signInName: z
    .string()
    .trim()
    .toLowerCase()
    .regex(/^[a-z0-9][a-z0-9._@-]{1,58}$/u, "Two or more: small letters, figures, . _ - @"),
  password: z.string().min(10, "Ten letters at least.").max(200),
});
const formSchema = z.intersection(leadSchema, workshopFormSchema);

/** A demo was loaded: how to look at it. */
const Loaded = ({ demo }: { demo: DemoLoaded }) => (
  <Door>
    <h1 className="text-xl font-bold">The demo is loaded</h1>
    <p>
      A made-up workshop with ten units. Sign in as{" "}
      {demo.signInNames.map((name, i) => (
        <span key={name}>
          {i > 0 && (i === demo.signInNames.length - 1 ? " or " : ", ")}
          <b>{name}</b>
        </span>
      ))}{" "}
      with the password <b className="whitespace-nowrap">{demo.password}</b>. Write it down: it is
      shown only now.
    </p>
    <p className="text-muted">
      When you have seen enough, the lead takes it away on the screen Workshop, and sets up a
      workshop of one's own.
    </p>
    <Link to="/sign-in" className={ACT_LINK}>
      Sign in
    </Link>
  </Door>
);

/** The first start: the workshop, how it measures, and its first lead; or the demo. */
export const SetUpScreen = () => {
  useTitle("Set up");
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const { data, error } = useSetUpNeededQuery(undefined, { refetchOnMountOrArgChange: true });
  const [setUp, setting] = useSetUpMutation();
  const [demo, setDemo] = useState<DemoLoaded>();
  const { register, handleSubmit, getValues, setValue, setError, formState } = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: {
      code: params.get("code") ?? "",
      ...NEW_WORKSHOP(),
      person: "",
      signInName: "",
      password: "",
    },
  });
  const { errors } = formState;
  if (demo) return <Loaded demo={demo} />;
  if (!data) return <Waiting error={error} />;
  if (!data.needed && !setting.isLoading) return <Navigate to="/sign-in" replace />;
  const begin = handleSubmit(async ({ code, person, signInName, password, ...workshop }) => {
    const reply = await setUp({ code, workshop, lead: { name: person, signInName, password } });
    if (!reply.error) await navigate("/", { replace: true });
  });
  const look = async (): Promise<void> => {
    const code = getValues("code").trim();
    if (code === "") return setError("code", { message: "Type the code first." });
    const reply = await setUp({ code, demo: true });
    if (!reply.error && "password" in reply.data) setDemo(reply.data);
  };
  return (
    <Door>
      <h1 className="text-xl font-bold">Set up the workshop</h1>
      <form onSubmit={(e) => void begin(e)} className="flex flex-col gap-3" noValidate>
        <Field
          label="Code"
          autoComplete="off"
          problem={errors.code?.message}
          {...register("code")}
        />
        <p className="-mt-2 text-[14px] text-muted">
          It was printed where the server was started, so that only whoever runs it can begin.
        </p>
        <WorkshopFields
          register={register}
          errors={errors}
          setDegrees={(degrees) => setValue("degrees", degrees)}
          winterLow="Winter low: as cold as it gets where units stand"
        />
        <Field
          label="Your name"
          maxLength={80}
          autoComplete="name"
          problem={errors.person?.message}
          {...register("person")}
        />
        <Field
          label="Sign-in name"
          maxLength={60}
          autoComplete="username"
          problem={errors.signInName?.message}
          {...register("signInName")}
        />
        <Field
          label="Password"
          type="password"
          autoComplete="new-password"
          problem={errors.password?.message}
          {...register("password")}
        />
        {setting.error && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-3">
            {problemText(setting.error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={setting.isLoading}>
          Begin
        </Button>
        <p className="mt-2 border-t border-line pt-3 text-[15px]">
          Only want to look? With the code alone a made-up workshop is loaded, which can be taken
          away again.
        </p>
        <Button disabled={setting.isLoading} onClick={() => void look()}>
          {setting.isLoading ? "Loading …" : "Load the demo"}
        </Button>
      </form>
    </Door>
  );
};
