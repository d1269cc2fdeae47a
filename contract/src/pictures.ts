import { moment, PICTURE_ABOUT, pictureMarkSchema } from "@uppershed/core/inspection";
import { z } from "zod";
import { unitId } from "./ids.ts";

/** Most that a picture may have when it is sent, bytes; the screen makes it smaller first. */
export const MOST_PICTURE_BYTES = 20 * 1024 * 1024;
export const MOST_DOCUMENT_BYTES = 10 * 1024 * 1024;
/** The longer side of a picture that is kept, pixels. */
export const PICTURE_SIDE = 2048;

export const pictureSchema = z.object({
  id: z.uuid(),
  unitId,
  about: z.enum(PICTURE_ABOUT),
  aboutId: z.string(),
  caption: z.string(),
  marks: z.array(pictureMarkSchema),
  width: z.number().int(),
  height: z.number().int(),
  bytes: z.number().int(),
  at: z.iso.datetime(),
  by: z.string(),
});

export const pictureListSchema = z.object({ pictures: z.array(pictureSchema) });

/** What is said of a picture beside its bytes; no file name is taken. */
export const newPictureSchema = z.strictObject({
  /** Made on the device. */
  id: z.uuid(),
  about: z.enum(PICTURE_ABOUT),
  aboutId: z.string().min(1).max(120),
  caption: z.string().trim().max(200).default(""),
  at: moment,
});

export const pictureChangeSchema = z.strictObject({
  caption: z.string().trim().max(200).optional(),
  marks: z.array(pictureMarkSchema).max(20).optional(),
});

export const documentSchema = z.object({
  id: z.uuid(),
  title: z.string(),
  bytes: z.number().int(),
  at: z.iso.datetime(),
  by: z.string(),
});
export const documentListSchema = z.object({ documents: z.array(documentSchema) });
export const newDocumentSchema = z.strictObject({
  id: z.uuid(),
  title: z
    .string()
    .trim()
    .min(1, "say what it is")
    .max(120)
    .refine((t) => !/[\\/\p{Cc}]/u.test(t) && !t.includes(".."), {
      message: "is a path, not a title",
    }),
});

export type Picture = z.infer<typeof pictureSchema>;
export type NewPicture = z.input<typeof newPictureSchema>;
export type PictureChange = z.input<typeof pictureChangeSchema>;
export type Paper = z.infer<typeof documentSchema>;
