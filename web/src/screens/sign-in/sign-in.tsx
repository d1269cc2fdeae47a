import { zodResolver } from "@hookform/resolvers/zod";
import { type SignIn, signInSchema } from "@uppershed/contract";
import { useForm } from "react-hook-form";
import { useNavigate, useSearchParams } from "react-router";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useSignInMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";

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
  const submit = handleSubmit(async (values) => {
    const reply = await signIn(values);
    if (!("error" in reply)) await navigate(safe(params.get("to")), { replace: true });
  });
  return (
    <main className="grid min-h-dvh bg-paper md:grid-cols-[minmax(360px,440px)_1fr]">
      <form
        onSubmit={(e) => void submit(e)}
        className="flex flex-col justify-center gap-4 p-8"
        noValidate
      >
        <h1 className="wide text-2xl font-extrabold uppercase tracking-wide text-green">
          Upper Shed
        </h1>
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
        {error && (
          <p role="alert" className="border-l-4 border-rust bg-rust-soft p-3">
            {problemText(error)}
          </p>
        )}
        <Button type="submit" look="act" big disabled={isLoading}>
          Sign in
        </Button>
      </form>
      <div aria-hidden className="hidden overflow-hidden bg-ground md:block">
        <svg viewBox="0 0 800 800" preserveAspectRatio="xMidYMid slice" className="size-full">
          <g fill="none" stroke="var(--pipe)" strokeWidth="22" strokeLinejoin="round">
            <path d="M-20 600H640V220H820M200 600V220H640M420 600V220" />
          </g>
          <g fill="none" stroke="var(--empty)" strokeWidth="15" strokeLinejoin="round">
            <path d="M-20 600H640V220H820M200 600V220H640M420 600V220" />
          </g>
          <g fill="none" stroke="var(--water)" strokeWidth="15">
            <path d="M-20 600H420V430" />
          </g>
          <g stroke="var(--pipe)" strokeWidth="8" fill="var(--paper)" strokeLinejoin="round">
            <path d="M166 382H234L166 470H234Z" />
            <path d="M606 382H674L606 470H674Z" fill="var(--rust)" />
          </g>
        </svg>
      </div>
    </main>
  );
};
