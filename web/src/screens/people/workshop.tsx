import { zodResolver } from "@hookform/resolvers/zod";
import { mayDo, type Workshop } from "@uppershed/contract";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { NotFound } from "../../shell/not-found.tsx";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useChangeWorkshopMutation,
  useMeQuery,
  useTakeDemoAwayMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { WorkshopFields } from "../../ui/workshop-fields.tsx";
import { workshopFormSchema, workshopTyped } from "../../ui/workshop-form.ts";
import { Backups } from "../../keeping/backups.tsx";
import { HouseNav } from "../../house/house-nav.tsx";
import { PeopleList } from "./people-list.tsx";

/** The workshop's own facts, open to be changed. */
const Facts = ({ workshop }: { workshop: Workshop }) => {
  const [change, changing] = useChangeWorkshopMutation();
  const { register, handleSubmit, setValue, formState } = useForm({
    resolver: zodResolver(workshopFormSchema),
    defaultValues: workshopTyped(workshop),
  });
  const { errors } = formState;
  const { winterLow } = formState.dirtyFields;
  // What is shown is rounded: a winter low that nobody touched stays what it is.
  const submit = handleSubmit(
    async ({ winterLowC, ...facts }) =>
      void (await change({ ...facts, ...(winterLow ? { winterLowC } : {}) })),
  );
  return (
    <form onSubmit={(e) => void submit(e)} className="mt-2 grid max-w-md gap-3" noValidate>
      <WorkshopFields
        register={register}
        errors={errors}
        setDegrees={(degrees) => setValue("degrees", degrees)}
        winterLow="Winter low"
      />
      <p className="-mt-2 text-[14px] text-muted">
        What is kept does not change with it: quantities are kept as they were read, and a signed
        sheet keeps the winter low of its day.
      </p>
      {changing.error && (
        <p role="alert" className="text-rust">
          {problemText(changing.error)}
        </p>
      )}
      {changing.data && <p role="status">Kept.</p>}
      <Button type="submit" look="act" className="justify-self-start" disabled={changing.isLoading}>
        Keep
      </Button>
    </form>
  );
};

/** The demo, taken away in one step. */
const TakeAway = () => {
  const [asked, setAsked] = useState(false);
  const [take, taking] = useTakeDemoAwayMutation();
  const go = async (): Promise<void> => {
    const reply = await take();
    if (reply.error) return;
    // A fresh page keeps nothing of the demo in memory.
    const { code } = reply.data;
    window.location.assign(code === null ? "/sign-in" : `/set-up?code=${code}`);
  };
  return (
    <section aria-label="Demo" className="mt-8 border-l-4 border-rust px-4 py-2">
      <p>This workshop is made up, to look at.</p>
      <Button look="rust" className="mt-2" onClick={() => setAsked(true)}>
        Take the demo away
      </Button>
      <Sheet open={asked} onClose={() => setAsked(false)} title="Take the demo away?">
        <p>
          Its units, signed sheets and people go, and cannot be brought back; what is kept on
          devices of whoever was signed in is of no use any more. Then a workshop of one's own is
          set up.
        </p>
        {taking.error && (
          <p role="alert" className="mt-2 text-rust">
            {problemText(taking.error)}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button look="rust" big disabled={taking.isLoading} onClick={() => void go()}>
            Take it away
          </Button>
          <Button big onClick={() => setAsked(false)}>
            Back
          </Button>
        </div>
      </Sheet>
    </section>
  );
};

/** The workshop: its people, its own facts. */
export const WorkshopScreen = () => {
  useTitle("Workshop");
  const { data: me, error } = useMeQuery();
  if (!me) return <Waiting error={error} />;
  if (!mayDo(me.person.role, "people")) return <NotFound />;
  return (
    <div className="mx-auto max-w-4xl p-5">
      <HouseNav role={me.person.role} />
      <h1 className="mt-3 text-2xl font-bold">{me.workshop.name}</h1>
      <PeopleList me={me} />
      <section aria-label="Facts of the workshop" className="mt-8">
        <h2 className="border-b-2 border-green text-[16px] font-bold">The workshop</h2>
        <Facts key={`${me.workshop.units} ${me.workshop.name}`} workshop={me.workshop} />
      </section>
      <Backups />
      {me.workshop.isDemo && <TakeAway />}
    </div>
  );
};
