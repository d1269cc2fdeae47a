import type { SecondFactorBegun } from "@uppershed/contract";
import { QRCodeSVG } from "qrcode.react";
import { useState } from "react";
import { useForm } from "react-hook-form";
import {
  problemText,
  useBeginSecondFactorMutation,
  useEndSecondFactorMutation,
  useProveSecondFactorMutation,
  useSecondFactorQuery,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { dayOf } from "../../ui/words.ts";

const QR_PX = 190;

/** The code to be taken up by an authenticator, and proved by what it shows. */
const Prove = ({
  begun,
  onProved,
  onClose,
}: {
  begun: SecondFactorBegun;
  onProved: (recovery: readonly string[]) => void;
  onClose: () => void;
}) => {
  const [prove] = useProveSecondFactorMutation();
  const form = useForm({ defaultValues: { code: "" } });
  return (
    <SheetForm
      form={form}
      act="Ask for it from now on"
      stays
      onClose={onClose}
      onAct={async ({ code }) => {
        const reply = await prove(code.trim());
        if (reply.error) return problemText(reply.error);
        onProved(reply.data.recovery);
        return undefined;
      }}
    >
      <p>Take this up with an authenticator on your telephone, then type what it shows.</p>
      <div className="my-3 inline-block bg-white p-3">
        <QRCodeSVG value={begun.uri} size={QR_PX} title="Code for the authenticator" />
      </div>
      <p className="text-[14px] text-muted">
        Without a camera, type: <b className="break-all text-ink">{begun.secret}</b>
      </p>
      <Field
        label="What it shows now"
        inputMode="numeric"
        autoComplete="one-time-code"
        maxLength={30}
        className="mt-2 max-w-xs"
        problem={form.formState.errors.code?.message}
        {...form.register("code", {
          validate: (t) => /^\d[\d\s]{4,}\d$/u.test(t.trim()) || "Six figures.",
        })}
      />
    </SheetForm>
  );
};

/** From nothing to recovery codes written down. */
const BeginSheet = ({ onClose }: { onClose: () => void }) => {
  const [begin] = useBeginSecondFactorMutation();
  const [begun, setBegun] = useState<SecondFactorBegun>();
  const [recovery, setRecovery] = useState<readonly string[]>();
  const form = useForm({ defaultValues: { password: "" } });
  return (
    <Sheet open onClose={onClose} title="A second factor">
      {recovery ? (
        <>
          <p>
            It is asked for from now on. Write these down, and keep them apart from the telephone:
            each opens once in its place, and they are shown only now.
          </p>
          <ul aria-label="Recovery codes" className="my-3 grid grid-cols-2 gap-x-6 font-semibold">
            {recovery.map((code) => (
              <li key={code}>{code}</li>
            ))}
          </ul>
          <Button look="act" big onClick={onClose}>
            They are written down
          </Button>
        </>
      ) : begun ? (
        <Prove begun={begun} onProved={setRecovery} onClose={onClose} />
      ) : (
        <SheetForm
          form={form}
          act="Go on"
          stays
          onClose={onClose}
          onAct={async ({ password }) => {
            const reply = await begin(password);
            if (reply.error) return problemText(reply.error);
            setBegun(reply.data);
            return undefined;
          }}
        >
          <p>
            Besides the password a code of your telephone is asked for, so that a password that
            somebody else has seen opens nothing.
          </p>
          <Field
            label="Your password"
            type="password"
            autoComplete="current-password"
            className="mt-2 max-w-xs"
            problem={form.formState.errors.password?.message}
            {...form.register("password", { validate: (t) => t !== "" || "Give your password." })}
          />
        </SheetForm>
      )}
    </Sheet>
  );
};

const EndSheet = ({ onClose }: { onClose: () => void }) => {
  const [end] = useEndSecondFactorMutation();
  const form = useForm({ defaultValues: { password: "", code: "" } });
  return (
    <Sheet open onClose={onClose} title="Take the second factor off?">
      <SheetForm
        form={form}
        act="Take it off"
        look="rust"
        onClose={onClose}
        onAct={async (given) => {
          const reply = await end(given);
          return reply.error && problemText(reply.error);
        }}
      >
        <Field
          label="Your password"
          type="password"
          autoComplete="current-password"
          {...form.register("password")}
        />
        <Field
          label="Code of the authenticator, or a recovery code"
          className="mt-2"
          autoComplete="one-time-code"
          maxLength={30}
          {...form.register("code")}
        />
      </SheetForm>
    </Sheet>
  );
};

/** Whether a second factor is asked of oneself, and what can be done about it. */
export const SecondFactorLine = () => {
  const { data } = useSecondFactorQuery();
  const [open, setOpen] = useState<"begin" | "end">();
  if (!data) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      {data.since === null ? (
        <>
          <p className="flex-1">Only your password is asked for.</p>
          <Button onClick={() => setOpen("begin")}>Ask for a second factor</Button>
        </>
      ) : (
        <>
          <p className="flex-1">
            The code of an authenticator is asked for too, since {dayOf(data.since)}.{" "}
            {data.recoveryLeft} recovery codes are left.
          </p>
          <Button onClick={() => setOpen("end")}>Take it off</Button>
        </>
      )}
      {open === "begin" && <BeginSheet onClose={() => setOpen(undefined)} />}
      {open === "end" && <EndSheet onClose={() => setOpen(undefined)} />}
    </div>
  );
};
