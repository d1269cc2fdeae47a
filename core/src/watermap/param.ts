import { z } from "zod";
import type { ParamSpec, ParamTakes } from "./kind.ts";

const schemaFor = (takes: ParamTakes): z.ZodType<number | string | boolean> => {
  if (takes.is === "yes or no") return z.boolean();
  if (takes.is === "one of") return z.enum(takes.words);
  if (takes.is === "words") return z.string().min(takes.least).max(takes.most);
  const number = z.number().min(takes.least).max(takes.most);
  return takes.whole ? number.int() : number;
};

const made = new WeakMap<ParamSpec, z.ZodType<number | string | boolean>>();

/** What a parameter may be, as a schema for whatever comes from outside. */
export const paramSchema = (spec: ParamSpec): z.ZodType<number | string | boolean> => {
  const schema = made.get(spec) ?? schemaFor(spec.takes);
  made.set(spec, schema);
  return schema;
};
