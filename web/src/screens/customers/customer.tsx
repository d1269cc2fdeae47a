import { zodResolver } from "@hookform/resolvers/zod";
import { type Customer, customerChangeSchema } from "@uppershed/contract";
import { useDeferredValue, useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useParams } from "react-router";
import { MergeSheet } from "../../register/merge-sheet.tsx";
import { useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useChangeCustomerMutation,
  useCustomerQuery,
  useCustomersQuery,
  useEraseCustomerMutation,
  useMergeCustomerMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";

const FIELDS = [
  ["name", "Name", 80],
  ["phone", "Phone", 40],
  ["email", "Mail", 120],
  ["address", "Address", 300],
] as const;

const Doubles = ({ customer, onClose }: { customer: Customer; onClose: () => void }) => {
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const { data } = useCustomersQuery(find ? { find, limit: 8 } : { limit: 8 });
  const [merge, merging] = useMergeCustomerMutation();
  return (
    <MergeSheet
      title={`Who is the same as ${customer.name}?`}
      listed="Customers found"
      found={data?.customers.filter((c) => c.id !== customer.id) ?? []}
      renderLine={(c) => (
        <>
          <b>{c.name}</b> {c.phone} {c.units.map((u) => u.name).join(", ")}
        </>
      )}
      renderExplain={(c) => (
        <>
          {c.units.length} {c.units.length === 1 ? "unit goes" : "units go"} over to{" "}
          <b>{customer.name}</b>. What was written of {c.name} is kept and still finds them; empty
          fields are filled from it.
        </>
      )}
      words={words}
      setWords={setWords}
      error={merging.error}
      busy={merging.isLoading}
      onMerge={async (c) => !(await merge({ id: customer.id, double: c.id })).error}
      onClose={onClose}
    />
  );
};

const Form = ({ customer }: { customer: Customer }) => {
  const [change, changing] = useChangeCustomerMutation();
  const {
    register,
    handleSubmit,
    formState: { errors, isDirty },
    reset,
  } = useForm({
    resolver: zodResolver(customerChangeSchema),
    defaultValues: {
      name: customer.name,
      phone: customer.phone,
      email: customer.email,
      address: customer.address,
      note: customer.note,
    },
  });
  const keep = handleSubmit(async (form) => {
    const reply = await change({ id: customer.id, change: form });
    if (!reply.error) reset(form);
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
      <label className="block text-[15px] sm:col-span-2">
        <span className="font-semibold">Note</span>
        <textarea
          className="field mt-1 min-h-20 w-full py-2"
          maxLength={1000}
          {...register("note")}
        />
      </label>
      <div className="sm:col-span-2">
        {changing.error && (
          <p role="alert" className="mb-2 text-rust">
            {problemText(changing.error)}
          </p>
        )}
        <Button type="submit" look="act" disabled={!isDirty || changing.isLoading}>
          Keep
        </Button>
      </div>
    </form>
  );
};

/** Taken out as a person, on their request; the name is typed again. */
const EraseSheet = ({ customer, onClose }: { customer: Customer; onClose: () => void }) => {
  const [erase] = useEraseCustomerMutation();
  const form = useForm({ defaultValues: { name: "" } });
  return (
    <Sheet open onClose={onClose} title={`Erase ${customer.name}?`}>
      <SheetForm
        form={form}
        act="Erase"
        look="rust"
        onClose={onClose}
        onAct={async ({ name }) => {
          const reply = await erase({ id: customer.id, name });
          return reply.error && problemText(reply.error);
        }}
      >
        <p>
          Name, phone, mail, address and notes go, with what they said on visits, their name on
          reports that were handed over, and their links. Maps, signed sheets, readings and findings
          of their units stay. Notes and captions that name them are not searched through: look at
          those yourself. Backups of before hold it until they are let go, after fourteen days. It
          cannot be undone.
        </p>
        <Field
          label="Type the name again"
          className="mt-3"
          autoComplete="off"
          problem={form.formState.errors.name?.message}
          {...form.register("name", {
            validate: (t) => t.trim() === customer.name.trim() || "That is another name.",
          })}
        />
      </SheetForm>
    </Sheet>
  );
};

/** One customer: how they are reached, their units, and who turned out to be the same. */
export const CustomerScreen = () => {
  const { customerId = "" } = useParams();
  const { data: customer, error } = useCustomerQuery(customerId);
  const [merging, setMerging] = useState(false);
  const mayMerge = useMay("merge");
  const mayErase = useMay("workshop");
  const [erasing, setErasing] = useState(false);
  useTitle(customer?.name ?? "Customer");
  if (!customer) return <Waiting error={error} />;
  return (
    <div className="mx-auto max-w-4xl p-5">
      <h1 className="mb-3 text-2xl font-bold">{customer.name}</h1>
      <Form key={customer.id} customer={customer} />
      <h2 className="mt-6 text-[17px] font-bold">Units</h2>
      <ul>
        {customer.units.map((u) => (
          <li key={u.id} className="border-t border-line">
            <Link
              to={`/units/${u.id}`}
              className="flex min-h-11 items-center gap-3 hover:bg-green-soft"
            >
              <b className="text-green">{u.name}</b> {u.craft}
            </Link>
          </li>
        ))}
      </ul>
      {customer.units.length === 0 && <p className="text-muted">None.</p>}
      <h2 className="mt-6 text-[17px] font-bold">The same customer under other names</h2>
      <ul>
        {customer.doubles.map((d) => (
          <li key={d.id} className="border-t border-line py-1">
            {[d.name, d.phone, d.email].filter(Boolean).join(", ")}
          </li>
        ))}
      </ul>
      {mayMerge && (
        <Button className="mt-2" onClick={() => setMerging(true)}>
          Put a double together
        </Button>
      )}
      {mayErase && (
        <Button className="ml-2 mt-2" onClick={() => setErasing(true)}>
          Erase as a person
        </Button>
      )}
      {merging && <Doubles customer={customer} onClose={() => setMerging(false)} />}
      {erasing && <EraseSheet customer={customer} onClose={() => setErasing(false)} />}
    </div>
  );
};
