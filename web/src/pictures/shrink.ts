import { MOST_PICTURE_BYTES, PICTURE_SIDE } from "@uppershed/contract";

/** A picture made small on the device before it is sent: upright, without where it was taken. */

interface Shrunk {
  readonly bytes: ArrayBuffer;
  readonly width: number;
  readonly height: number;
}

export type ShrinkResult =
  | { readonly ok: true; readonly picture: Shrunk }
  | { readonly ok: false; readonly problem: string };

const QUALITY = 0.85;
const MOST_FILE_BYTES = 60 * 1024 * 1024;

/** The size in which a picture is kept: its longer side at most so many pixels. */
const fitted = (
  width: number,
  height: number,
  side = PICTURE_SIDE,
): { width: number; height: number } => {
  const scale = Math.min(1, side / Math.max(width, height));
  return {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
};

export const shrink = async (file: Blob): Promise<ShrinkResult> => {
  if (file.size > MOST_FILE_BYTES)
    return { ok: false, problem: "The file is larger than 60 MB. Take the picture smaller." };
  let bitmap: ImageBitmap;
  try {
    // Turned upright by what the camera wrote; what is drawn from it carries nothing else of that along.
    bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    return {
      ok: false,
      problem: "This file is no picture that can be read here. Take a JPEG, PNG or WebP.",
    };
  }
  const { width, height } = fitted(bitmap.width, bitmap.height);
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
  if (!blob || blob.size > MOST_PICTURE_BYTES)
    return { ok: false, problem: "The picture could not be made smaller. Try another one." };
  return { ok: true, picture: { bytes: await blob.arrayBuffer(), width, height } };
};
