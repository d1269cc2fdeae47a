import { useState } from "react";
import type { PictureNow } from "../sending/on-device.ts";
import { dayOf, timeOf } from "../ui/words.ts";
import { Marks, saysOf } from "./marks.tsx";
import { PictureSheet } from "./picture-sheet.tsx";
import { usePictureSource } from "./use-picture-source.ts";

const words = (picture: PictureNow): string =>
  `${picture.caption || "Picture"}, ${dayOf(picture.at)}${picture.by ? `, ${picture.by}` : ""}${saysOf(picture.marks)}`;

export const PictureView = ({
  picture,
  base,
  className = "",
}: {
  picture: PictureNow;
  base?: string;
  className?: string;
}) => {
  const source = usePictureSource(picture, base);
  return (
    <span
      className={`relative block overflow-hidden ${className}`}
      style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
    >
      <img src={source} alt={words(picture)} loading="lazy" className="size-full object-cover" />
      <Marks marks={picture.marks} aspect={picture.width / picture.height} />
    </span>
  );
};

/** Pictures in a row; a tap opens one to look at it and to mark on it. */
export const PictureStrip = ({ pictures }: { pictures: readonly PictureNow[] }) => {
  const [open, setOpen] = useState<string>();
  const shown = pictures.find((p) => p.id === open);
  if (pictures.length === 0) return null;
  return (
    <>
      <ul className="mt-2 flex flex-wrap gap-2" aria-label="Pictures">
        {pictures.map((picture) => (
          <li key={picture.id}>
            <button
              type="button"
              className="block rounded border-[1.5px] border-line hover:border-green"
              aria-label={`Open: ${words(picture)}`}
              onClick={() => setOpen(picture.id)}
            >
              <PictureView picture={picture} className="h-20 rounded" />
              {picture.bytesHere && (
                <span className="block px-1 text-[12px] text-muted">
                  kept here, {timeOf(picture.at)}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
      {shown && <PictureSheet picture={shown} onClose={() => setOpen(undefined)} />}
    </>
  );
};
