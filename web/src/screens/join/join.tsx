import { zodResolver } from "@hookform/resolvers/zod";
import { joinSchema } from "@uppershed/contract";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useParams } from "react-router";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useJoinMutation, useJoinToldQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Door } from "../../ui/door.tsx";
import { Field } from "../../ui/field.tsx";

/** Where a link leads: into the workshop, or to a new password. */
export const JoinScreen = () => {
  useTitle("Join");
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const { data: told, error } = useJoinToldQuery(token);
  const [join, joining] = useJoinMutation();
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(joinSchema),
    defaultValues: { password: "" },
  });
  const { errors } = formState;
  const submit = handleSubmit(async (asked) => {
    const reply = await join({ token, asked });
    if (!reply.error) await navigate("/", { replace: true });
  });
  if (!told)
    return (
      <Door>
        <h1 className="sr-only">Join</h1>
        {error ? (
          <>
            <p role="alert" className="border-l-4 border-rust bg-rust-soft p-3">
              {problemText(error)}
            </p>
            <Link to="/sign-in" className="text-green underline">
              Sign in
            </Link>
          </>
        ) : (
          <p className="text-muted">Fetching what the link is for …</p>
        )}
      </Door>
    );
  const isNew = told.signInName === null;
  return (
    <Door>
      <h1 className="text-xl font-bold">
        {isNew ? `Join ${told.workshop}` : `A new password for ${told.name}`}
      </h1>
      <p className="text-muted">
        {isNew
          ? `You come as ${told.role}.`
          : `Your sign-in name is ${told.signInName}. With the new password you are signed out everywhere else.`}
      </p>
      <form onSubmit={(e) => void submit(e)} className="flex flex-col gap-3" noValidate>
        {isNew && (
          <>
            <Field
              label="Your name, as it is to stand under what you sign"
              maxLength={80}
              autoComplete="name"
              defaultValue={told.name}
              problem={errors.name?.message}
              {...register("name")}
            />
            <Field
              label="Sign-in name"
              maxLength={60}
              autoComplete="username"
              problem={errors.signInName?.message}
              {...register("signInName")}
            />
          </>
        )}
        <Field
          label="Password, ten letters at least"
          type="password"
          autoComplete="new-password"
          problem={errors.password?.message}
          {...register("password")}
        />
        {joining.error && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-3">
            {problemText(joining.error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={joining.isLoading}>
          {isNew ? "Join" : "Keep the new password"}
        </Button>
      </form>
    </Door>
  );
};
