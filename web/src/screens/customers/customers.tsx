import { useDeferredValue, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useAddCustomerMutation, useCustomersQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { RegisterSheet } from "./register-sheet.tsx";

/** Customers: one line each, found by any word; out of files and into them. */
export const Customers = () => {
  useTitle("Customers");
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const { data, error } = useCustomersQuery(find ? { find } : {});
  const [files, setFiles] = useState(false);
  const mayFiles = useMay("files");
  const { control, register, handleSubmit } = useForm({ defaultValues: { name: "" } });
  const name = useWatch({ control, name: "name" }).trim();
  const [id] = useState(uuid);
  const [add, adding] = useAddCustomerMutation();
  if (!data) return <Waiting error={error} />;
  const take = async (): Promise<void> => {
    const reply = await add({ id, name });
    if (!reply.error) void navigate(`/customers/${reply.data.id}`);
  };
  return (
    <div className="mx-auto max-w-5xl p-5">
      <div className="flex flex-wrap items-end gap-4">
        <h1 className="text-2xl font-bold">Customers</h1>
        <label className="ml-auto text-[14px]">
          <span className="mr-2 text-muted">Find</span>
          <input
            className="field w-64"
            maxLength={100}
            placeholder="name, phone, mail …"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        </label>
        {mayFiles && <Button onClick={() => setFiles(true)}>Files</Button>}
        <Link
          to="/units"
          className="inline-flex min-h-[44px] items-center rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
        >
          Units
        </Link>
      </div>
      <table className="mt-4 w-full border-collapse text-left text-[15px]">
        <thead className="text-[13px] text-muted">
          <tr>
            <th className="py-2 pr-4 font-semibold">Customer</th>
            <th className="py-2 pr-4 font-semibold">Phone</th>
            <th className="hidden py-2 pr-4 font-semibold md:table-cell">Mail</th>
            <th className="py-2 font-semibold">Units</th>
          </tr>
        </thead>
        <tbody>
          {data.customers.map((c) => (
            <tr key={c.id} className="border-t border-line hover:bg-green-soft">
              <td className="pr-4">
                <Link
                  to={`/customers/${c.id}`}
                  className="flex min-h-11 items-center font-bold text-green underline-offset-4 hover:underline"
                >
                  {c.name}
                </Link>
              </td>
              <td className="pr-4">{c.phone}</td>
              <td className="hidden pr-4 md:table-cell">{c.email}</td>
              <td>{c.units.map((u) => u.name).join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.customers.length === 0 && <p className="mt-4 text-muted">No customer fits.</p>}
      {data.more && (
        <p className="mt-3 text-[14px] text-muted">
          There are more: type a word of the one you look for.
        </p>
      )}
      <form
        className="mt-6 flex flex-wrap items-end gap-3 border-t border-line pt-4"
        onSubmit={(event) => void handleSubmit(take)(event)}
      >
        <Field
          label="A new customer's name"
          className="w-72"
          maxLength={80}
          {...register("name")}
        />
        <Button type="submit" disabled={name === "" || adding.isLoading}>
          Write down
        </Button>
        {adding.error && (
          <p role="alert" className="text-rust">
            {problemText(adding.error)}
          </p>
        )}
      </form>
      {files && <RegisterSheet onClose={() => setFiles(false)} />}
    </div>
  );
};
