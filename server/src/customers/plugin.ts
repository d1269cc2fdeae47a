import { Readable } from "node:stream";
import {
  customerChangeSchema,
  customerListSchema,
  customerSchema,
  customerSearchSchema,
  eraseCustomerSchema,
  mergeSchema,
  newCustomerSchema,
  problemSchema,
  registerFileSchema,
  registerOutcomeSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import {
  addCustomer,
  changeCustomer,
  findCustomers,
  getCustomer,
  mergeCustomers,
} from "./store.ts";
import { waitToMerge } from "../house/merging.ts";
import { eraseCustomer } from "./erase.ts";
import { exportRegister, importRegister } from "./exchange.ts";

const byId = z.strictObject({ customerId: z.uuid("not a customer's id") });

/** Customers: whose units they are; the register out of files and into them. */
export const customersPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/customers",
    {
      schema: {
        tags: ["customers"],
        summary: "Customers, by words: name, phone, mail, address",
        querystring: customerSearchSchema,
        response: { 200: customerListSchema },
      },
    },
    async (request) => findCustomers(request.scope, request.query.find, request.query.limit),
  );

  app.post(
    "/customers",
    {
      schema: {
        tags: ["customers"],
        summary: "Write down a customer",
        body: newCustomerSchema,
        response: { 201: customerSchema },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(await getCustomer(request.scope, await addCustomer(request.scope, request.body))),
  );

  app.get(
    "/customers/:customerId",
    {
      schema: {
        tags: ["customers"],
        summary: "One customer",
        params: byId,
        response: { 200: customerSchema, 404: problemSchema },
      },
    },
    async (request) => getCustomer(request.scope, request.params.customerId),
  );

  app.patch(
    "/customers/:customerId",
    {
      schema: {
        tags: ["customers"],
        summary: "Change what is written of a customer",
        params: byId,
        body: customerChangeSchema,
        response: { 200: customerSchema, 404: problemSchema },
      },
    },
    async (request) => changeCustomer(request.scope, request.params.customerId, request.body),
  );

  app.post(
    "/customers/:customerId/merge",
    {
      schema: {
        tags: ["customers"],
        summary: "Put a double together with this customer; nothing of it is lost",
        params: byId,
        body: mergeSchema,
        response: {
          200: customerSchema,
          404: problemSchema,
          409: problemSchema,
          422: problemSchema,
        },
      },
    },
    async (request) => {
      const { scope, me, params, body } = request;
      const kept = await getCustomer(scope, params.customerId);
      const gone = await getCustomer(scope, body.double);
      await waitToMerge(scope, me.person, {
        kind: "merge-customer",
        keptId: kept.id,
        doubleId: gone.id,
        what: `Put ${gone.name} together with ${kept.name}, who stays`,
      });
      return mergeCustomers(scope, me.person.id, params.customerId, body.double);
    },
  );

  app.post(
    "/customers/:customerId/erase",
    {
      schema: {
        tags: ["customers"],
        summary: "Take a customer out as a person; the units' technical record stays",
        params: byId,
        body: eraseCustomerSchema,
        response: { 200: customerSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) => eraseCustomer(request.scope, request.params.customerId, request.body.name),
  );

  app.get(
    "/register/:kind",
    {
      schema: {
        tags: ["customers"],
        summary: "The register of customers and units as a CSV file, or the customers as vCards",
        params: z.strictObject({ kind: z.enum(["csv", "vcard"]) }),
      },
    },
    async (request, reply) => {
      const { kind } = request.params;
      return reply
        .header(
          "content-type",
          kind === "csv" ? "text/csv; charset=utf-8" : "text/vcard; charset=utf-8",
        )
        .header(
          "content-disposition",
          `attachment; filename="register.${kind === "csv" ? "csv" : "vcf"}"`,
        )
        .send(Readable.from(exportRegister(request.scope, kind)));
    },
  );

  app.post(
    "/register",
    {
      schema: {
        tags: ["customers"],
        summary: "Take a register in from a file, or only say what would happen",
        body: registerFileSchema,
        response: { 200: registerOutcomeSchema, 422: problemSchema },
      },
    },
    async (request) => importRegister(request.scope, request.me.person.id, request.body),
  );
};
