import { zodResolver } from "@hookform/resolvers/zod";
import { mayDo, newPasswordSchema } from "@uppershed/contract";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useChangePasswordMutation,
  useEndSessionMutation,
  useMeQuery,
  useSessionsQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { SecondFactorLine } from "./second-factor.tsx";
import { dayOf, timeOf } from "../../ui/words.ts";

const Password = () => {
  const [change, changing] = useChangePasswordMutation();
  const { register, handleSubmit, reset, formState } = useForm({
    resolver: zodResolver(newPasswordSchema),
    defaultValues: { now: "", next: "" },
  });
  const submit = handleSubmit(async (given) => {
    const reply = await change(given);
    if (!reply.error) reset();
  });
  return (
    <form onSubmit={(e) => void submit(e)} className="mt-2 grid max-w-md gap-3" noValidate>
      <Field
        label="Password of now"
        type="password"
        autoComplete="current-password"
        problem={formState.errors.now?.message}
        {...register("now")}
      />
      <Field
        label="New password, ten letters at least"
        type="password"
        autoComplete="new-password"
        problem={formState.errors.next?.message}
        {...register("next")}
      />
      {changing.error && (
        <p role="alert" className="text-rust">
          {problemText(changing.error)}
        </p>
      )}
      {changing.data && <p role="status">Changed. Everywhere else you are signed out.</p>}
      <Button type="submit" look="act" className="justify-self-start" disabled={changing.isLoading}>
        Change it
      </Button>
    </form>
  );
};

/** What a browser calls itself, shortened to what a person knows it by. */
const deviceWords = (device: string): string => {
  const system = /Android|iPhone|iPad|Windows|Mac OS|Linux/u.exec(device)?.[0];
  const browser = /Firefox|Edg|Chrome|Safari/u.exec(device)?.[0];
  return [browser === "Edg" ? "Edge" : browser, system].filter(Boolean).join(" on ") || "a device";
};

const Sessions = () => {
  const { data } = useSessionsQuery();
  const [end, ending] = useEndSessionMutation();
  return (
    <ul aria-label="Where you are signed in" className="mt-2">
      {data?.sessions.map((s) => (
        <li key={s.id} className="flex items-center gap-3 border-t border-line py-1.5">
          <span className="flex-1">
            <b>{deviceWords(s.device)}</b>
            <span className="text-muted">
              , since {dayOf(s.openedAt)} {timeOf(s.openedAt)}, until {dayOf(s.expiresAt)}
            </span>
          </span>
          {s.here ? (
            <span className="text-muted">here</span>
          ) : (
            <Button disabled={ending.isLoading} onClick={() => void end(s.id)}>
              Sign out there
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
};

/** Oneself: name and role, password, and where one is signed in. */
export const AccountScreen = () => {
  useTitle("Yourself");
  const { data: me, error } = useMeQuery();
  if (!me) return <Waiting error={error} />;
  return (
    <div className="mx-auto max-w-3xl p-5">
      <h1 className="text-2xl font-bold">{me.person.name}</h1>
      <p className="text-muted">
        {me.person.role} at {me.workshop.name}
        {" · "}
        <Link
          to={mayDo(me.person.role, "people") ? "/workshop" : "/workshop/rules"}
          className="text-green underline"
        >
          the workshop, its people, rules, places and kit
        </Link>
      </p>
      <section aria-label="Password" className="mt-6">
        <h2 className="border-b-2 border-green text-[16px] font-bold">Password</h2>
        <Password />
      </section>
      <section aria-label="Second factor" className="mt-6">
        <h2 className="border-b-2 border-green text-[16px] font-bold">Second factor</h2>
        <SecondFactorLine />
      </section>
      <section aria-label="Signed in" className="mt-6">
        <h2 className="border-b-2 border-green text-[16px] font-bold">Signed in</h2>
        <Sessions />
      </section>
    </div>
  );
};
