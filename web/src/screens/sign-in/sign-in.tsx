import { zodResolver } from "@hookform/resolvers/zod";
import { type SignIn, signInSchema } from "@uppershed/contract";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Navigate, useNavigate, useSearchParams } from "react-router";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemCode,
  problemText,
  useSetUpNeededQuery,
  useSignInMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { Door } from "../../ui/door.tsx";

/** Where to go after signing in: a screen of this application, never another site. */
const safe = (to: string | null): string =>
  to?.startsWith("/") && !to.startsWith("//") ? to : "/";

export const SignInScreen = () => {
  useTitle("Sign in");
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const [signIn, { error, isLoading }] = useSignInMutation();
  const { register, handleSubmit, formState } = useForm<SignIn>({
    resolver: zodResolver(signInSchema),
    defaultValues: { name: "", password: "" },
  });
  const { data: setUp } = useSetUpNeededQuery();
  const [askCode, setAskCode] = useState(false);
  const submit = handleSubmit(async (values) => {
    const reply = await signIn(values);
    if (reply.error && problemCode(reply.error) === "code-needed") setAskCode(true);
    if (!("error" in reply)) await navigate(safe(params.get("to")), { replace: true });
  });
  if (setUp?.needed) return <Navigate to="/set-up" replace />;
  return (
    <Door>
      <form onSubmit={(e) => void submit(e)} className="flex flex-col gap-4" noValidate>
        <h1 className="sr-only">Sign in</h1>
        <p className="text-muted">
          The water systems of vans and boats: drawn, worked out, done and written down.
        </p>
        {(["name", "password"] as const).map((field) => (
          <label key={field} className="block">
            <span className="font-semibold">{field === "name" ? "Sign-in name" : "Password"}</span>
            <input
              {...register(field)}
              type={field === "password" ? "password" : "text"}
              autoComplete={field === "password" ? "current-password" : "username"}
              aria-invalid={formState.errors[field] ? true : undefined}
              aria-describedby={formState.errors[field] ? `${field}-problem` : undefined}
              className="field mt-1 w-full"
            />
            {formState.errors[field] && (
              <span id={`${field}-problem`} className="mt-1 block text-rust">
                {formState.errors[field]?.message}
              </span>
            )}
          </label>
        ))}
        {askCode && (
          <Field
            label="Code of your authenticator, or a recovery code"
            autoComplete="one-time-code"
            maxLength={30}
            {...register("code", { shouldUnregister: true })}
          />
        )}
        {error && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-3">
            {problemText(error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={isLoading}>
          Sign in
        </Button>
      </form>
    </Door>
  );
};
