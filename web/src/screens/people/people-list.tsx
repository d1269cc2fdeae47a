import {
  DEEDS,
  type Invite,
  type InviteMade,
  mayDo,
  type Me,
  type Role,
} from "@uppershed/contract";
import { ROLES } from "@uppershed/core/inspection";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { uuid } from "../../device/uuid.ts";
import {
  problemText,
  useChangePersonMutation,
  useInviteMutation,
  usePeopleQuery,
  useResetPersonMutation,
  useWithdrawInviteMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

const INVITED_DAYS = 7;

/** What a role may do, in words. */
const roleWords = (role: Role): string =>
  Object.entries(DEEDS)
    .filter(([deed]) => deed !== "self" && mayDo(role, deed as keyof typeof DEEDS))
    .map(([, { says }]) => says)
    .join("; ");

/** A link is shown once: to be copied and given to whom it is for. */
const LinkSheet = ({ made, onClose }: { made: InviteMade; onClose: () => void }) => {
  const [copied, setCopied] = useState(false);
  const link = `${window.location.origin}${made.path}`;
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(link);
    setCopied(true);
  };
  return (
    <Sheet open onClose={onClose} title={`A link for ${made.name}`}>
      <p>
        It is good once, until {dayOf(made.expiresAt)}, and is shown only now. Give it to{" "}
        {made.name} and to nobody else.
        {made.personId !== null &&
          " A second factor is taken off with it: whoever has lost the telephone begins anew."}
      </p>
      <p className="mt-3 break-all border border-line bg-raised p-3 font-semibold" data-link>
        {link}
      </p>
      <div className="mt-4 flex gap-2">
        <Button look="act" big onClick={() => void copy()}>
          {copied ? "Copied" : "Copy it"}
        </Button>
        <Button big onClick={onClose}>
          Done
        </Button>
      </div>
    </Sheet>
  );
};

const InviteSheet = ({
  onMade,
  onClose,
}: {
  onMade: (made: InviteMade) => void;
  onClose: () => void;
}) => {
  const [id] = useState(uuid);
  const [invite] = useInviteMutation();
  const form = useForm({ defaultValues: { name: "", role: "technician" as Role } });
  const role = useWatch({ control: form.control, name: "role" });
  return (
    <Sheet open onClose={onClose} title="Invite somebody">
      <SheetForm
        form={form}
        act="Make the link"
        onClose={onClose}
        onAct={async ({ name, role: as }) => {
          const reply = await invite({ id, name, role: as, days: INVITED_DAYS });
          if (reply.error) return problemText(reply.error);
          onMade(reply.data);
          return undefined;
        }}
      >
        <Field
          label="Name"
          maxLength={80}
          problem={form.formState.errors.name?.message}
          {...form.register("name", {
            validate: (name) => name.trim() !== "" || "Whom is it for?",
          })}
        />
        <label className="mt-2 block text-[15px] font-semibold">
          Role
          <select className="field mt-1 w-full font-normal" {...form.register("role")}>
            {ROLES.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </label>
        <p className="mt-2 text-[14px] text-muted">May {roleWords(role)}.</p>
      </SheetForm>
    </Sheet>
  );
};

const isGood = (i: Invite, now: number): boolean =>
  !i.usedAt && !i.withdrawnAt && Date.parse(i.expiresAt) > now;

const stands = (i: Invite, now: number): string => {
  if (i.usedAt) return `used ${dayOf(i.usedAt)}`;
  if (i.withdrawnAt) return `withdrawn ${dayOf(i.withdrawnAt)}`;
  return `${isGood(i, now) ? "good until" : "ended"} ${dayOf(i.expiresAt)}`;
};

/** Who belongs to the workshop, and the links that are out. */
export const PeopleList = ({ me }: { me: Me }) => {
  const { data, error } = usePeopleQuery();
  const [change, changing] = useChangePersonMutation();
  const [reset, resetting] = useResetPersonMutation();
  const [withdraw] = useWithdrawInviteMutation();
  const [inviting, setInviting] = useState(false);
  const [made, setMade] = useState<InviteMade>();
  const [now] = useState(() => Date.now());
  if (!data) return <Waiting error={error} />;
  const help = async (personId: string): Promise<void> => {
    const reply = await reset({ personId, id: uuid() });
    if (!reply.error) setMade(reply.data);
  };
  const problem = changing.error ?? resetting.error;
  return (
    <section aria-label="People" className="mt-4">
      <div className="flex items-end justify-between border-b-2 border-green pb-1">
        <h2 className="text-[16px] font-bold">People</h2>
        <Button onClick={() => setInviting(true)}>Invite somebody</Button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problemText(problem)}
        </p>
      )}
      <ul aria-label="People of the workshop">
        {data.people.map((p) => (
          <li
            key={p.id}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-2"
          >
            <span className="min-w-48 flex-1">
              <b>{p.name}</b> <span className="text-muted">{p.signInName}</span>
              <span className="block text-[14px] text-muted">
                {p.leftAt
                  ? `left ${dayOf(p.leftAt)}; what they signed stays`
                  : p.sessions === 0
                    ? "not signed in"
                    : `signed in on ${p.sessions} ${p.sessions === 1 ? "device" : "devices"}`}
                {p.secondFactor && "; with a second factor"}
              </span>
            </span>
            <label>
              <span className="sr-only">Role of {p.name}</span>
              <select
                className="field"
                value={p.role}
                disabled={changing.isLoading || p.leftAt !== null}
                onChange={(e) =>
                  void change({ id: p.id, change: { role: e.target.value as Role } })
                }
              >
                {ROLES.map((r) => (
                  <option key={r}>{r}</option>
                ))}
              </select>
            </label>
            {p.leftAt ? (
              <Button onClick={() => void change({ id: p.id, change: { left: false } })}>
                Take back
              </Button>
            ) : (
              <>
                <Button onClick={() => void help(p.id)}>New password</Button>
                {p.id !== me.person.id && (
                  <Button
                    aria-label={`${p.name} leaves`}
                    onClick={() => void change({ id: p.id, change: { left: true } })}
                  >
                    Leaves
                  </Button>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      {data.invites.length > 0 && (
        <>
          <h3 className="mt-4 text-[15px] font-semibold">Links</h3>
          <ul aria-label="Links that were made">
            {data.invites.map((i) => (
              <li key={i.id} className="flex items-center gap-3 border-b border-line py-1.5">
                <span className="flex-1 text-[15px]">
                  <b>{i.name}</b>, {i.personId ? "new password" : `as ${i.role}`}
                  <span className="text-muted">
                    {" "}
                    · made by {i.by} · {stands(i, now)}
                  </span>
                </span>
                {isGood(i, now) && <Button onClick={() => void withdraw(i.id)}>Withdraw</Button>}
              </li>
            ))}
          </ul>
        </>
      )}
      {inviting && <InviteSheet onMade={setMade} onClose={() => setInviting(false)} />}
      {made && !inviting && <LinkSheet made={made} onClose={() => setMade(undefined)} />}
    </section>
  );
};
