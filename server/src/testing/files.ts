import sharp from "sharp";

/** Files for the tests: sound ones, and ones that must be refused. */

/** A small JPEG; with what a camera writes into it where that is asked for. */
export const testPicture = (
  size: { width?: number; height?: number } = {},
  exif = false,
): Promise<Buffer> => {
  const { width = 40, height = 30 } = size;
  const plain = sharp({
    create: { width, height, channels: 3, background: { r: 40, g: 90, b: 160 } },
  });
  const made = exif
    ? plain.withMetadata({ orientation: 6 }).withExifMerge({
        IFD0: { Make: "Test camera" },
        IFD3: {
          GPSLatitudeRef: "N",
          GPSLatitude: "46/1 30/1 0/1",
          GPSLongitudeRef: "E",
          GPSLongitude: "8/1 15/1 0/1",
        },
      })
    : plain;
  return made.jpeg().toBuffer();
};

export const TEST_PDF = Buffer.from("%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n");
