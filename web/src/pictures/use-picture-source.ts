import { useEffect, useMemo } from "react";
import type { PictureNow } from "../sending/on-device.ts";

/** Where a picture's bytes are: on the server, or still on this device. */
export const usePictureSource = (picture: PictureNow, base = "/api/pictures"): string => {
  const here = useMemo(
    () =>
      picture.bytesHere
        ? URL.createObjectURL(new Blob([picture.bytesHere], { type: "image/jpeg" }))
        : undefined,
    [picture.bytesHere],
  );
  useEffect(() => () => (here ? URL.revokeObjectURL(here) : undefined), [here]);
  return here ?? `${base}/${picture.id}`;
};
