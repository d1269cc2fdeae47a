import { customerFields } from "@uppershed/core/formats";
import { z } from "zod";
import { customerId, unitId } from "./ids.ts";

/** Whose units they are. */
export const customerSchema = z.object({
  id: customerId,
  name: z.string(),
  phone: z.string(),
  email: z.string(),
  address: z.string(),
  note: z.string(),
  units: z.array(z.object({ id: unitId, name: z.string(), craft: z.string() })),
  /** Who turned out to be the same: kept with everything that was known of them. */
  doubles: z.array(
    z.object({
      id: customerId,
      name: z.string(),
      phone: z.string(),
      email: z.string(),
      address: z.string(),
      note: z.string(),
    }),
  ),
});

export const customerListSchema = z.object({
  customers: z.array(customerSchema),
  more: z.boolean(),
});

export const customerSearchSchema = z.strictObject({
  find: z.string().trim().max(100).optional(),
  limit: z.coerce.number().int().min(1).max(100).default(50),
});

export const newCustomerSchema = z.strictObject({
  /** Made on the device: the same customer sent twice is one. */
  id: customerId,
  ...customerFields,
  phone: customerFields.phone.default(""),
  email: customerFields.email.default(""),
  address: customerFields.address.default(""),
  note: customerFields.note.default(""),
});
export const customerChangeSchema = z.strictObject(customerFields).partial();

/** The double that goes, into the one that stays. */
export const mergeSchema = z.strictObject({ double: z.uuid() });

export const registerFileSchema = z.strictObject({
  kind: z.enum(["csv", "vcard"]),
  text: z.string().min(1, "the file is empty").max(1_900_000),
  /** Only say what would happen. */
  tryOnly: z.boolean().default(true),
});

/** What an import does, or would do, line by line. */
export const registerOutcomeSchema = z.object({
  done: z.boolean(),
  newCustomers: z.number().int(),
  newUnits: z.number().int(),
  filled: z.number().int(),
  same: z.number().int(),
  /** What is said differently here: left as it is, and named. */
  differs: z.array(
    z.object({ line: z.number().int(), where: z.string(), here: z.string(), file: z.string() }),
  ),
  /** Fields of the file that the register does not keep. */
  notTaken: z.array(z.string()),
});

export type Customer = z.infer<typeof customerSchema>;
export type NewCustomer = z.input<typeof newCustomerSchema>;
export type CustomerChange = z.input<typeof customerChangeSchema>;
export type RegisterFile = z.input<typeof registerFileSchema>;
export type RegisterOutcome = z.infer<typeof registerOutcomeSchema>;
