import { PICTURE_SIDE } from "@uppershed/contract";
import sharp, { type Metadata } from "sharp";
import { Refused } from "../errors.ts";

/**
 * A picture as it is kept: decoded and made anew, so that nothing of what was sent lives on but its pixels. Turned upright, made smaller,
 * without where and with what it was taken.
 */
export interface Remade {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}

// 60 megapixels: more than any tablet takes, far less than what is made to fill a memory.
const MOST_PIXELS = 60e6;
const MOST_SIDE = 16_000;
const QUALITY = 82;
const SECONDS = 15;

/** First bytes of what is taken; what a sender calls it counts for nothing. */
const SIGNATURES: readonly (readonly [name: string, fits: (b: Buffer) => boolean])[] = [
  ["jpeg", (b) => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff],
  [
    "png",
    (b) => b.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  ],
  ["webp", (b) => b.toString("latin1", 0, 4) === "RIFF" && b.toString("latin1", 8, 12) === "WEBP"],
];

const refuse = (why: string): Refused =>
  new Refused("not-a-picture", `${why} Nothing was kept. Send a JPEG, PNG or WebP picture.`);

// One at a time on each core is enough; a server that answers is worth more than a fast upload.
sharp.concurrency(1);
sharp.cache(false);

/** @throws Refused where it is no picture, or one too large to be decoded */
export const remakePicture = async (sent: Buffer): Promise<Remade> => {
  const kind = SIGNATURES.find(([, fits]) => fits(sent))?.[0];
  if (kind === undefined)
    throw refuse("This is no picture that is taken here, whatever it is called.");
  const open = () =>
    sharp(sent, { limitInputPixels: MOST_PIXELS, failOn: "error", animated: false });
  let head: Metadata;
  try {
    head = await open().metadata();
  } catch {
    throw refuse("The picture cannot be read, or has more pixels than are decoded.");
  }
  if (head.format !== kind) throw refuse("The picture is not what its first bytes say.");
  const { width, height } = head;
  if (width > MOST_SIDE || height > MOST_SIDE || width * height > MOST_PIXELS)
    throw refuse(
      `The picture has ${width} × ${height} pixels; at most ${MOST_SIDE} a side and ${MOST_PIXELS / 1e6} million are decoded.`,
    );
  try {
    const { data, info } = await open()
      .autoOrient()
      .resize({
        width: PICTURE_SIDE,
        height: PICTURE_SIDE,
        fit: "inside",
        withoutEnlargement: true,
      })
      .flatten({ background: "#ffffff" })
      .jpeg({ quality: QUALITY, mozjpeg: true })
      .timeout({ seconds: SECONDS })
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  } catch {
    throw refuse("The picture is damaged.");
  }
};
