import type { NewPicture } from "@uppershed/contract";
import { Camera } from "lucide-react";
import { useId, useState } from "react";
import { useSendLater } from "../sending/use-sender.ts";
import { uuid } from "../device/uuid.ts";
import { shrink } from "./shrink.ts";

/** Takes a picture, or one from a file: made small here, put aside on the device, sent when it can be. */
export const PictureButton = ({
  unitId,
  about,
  aboutId,
  label,
  onTaken,
}: {
  unitId: string;
  about: NewPicture["about"];
  /** What the picture is about; a function where that is only made by taking it. */
  aboutId: string | (() => string);
  /** Said to who cannot see it: "Picture of the pump". */
  label: string;
  onTaken?: () => void;
}) => {
  const field = useId();
  const sendLater = useSendLater();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const take = async (file: File): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    const result = await shrink(file);
    setBusy(false);
    if (!result.ok) return setProblem(result.problem);
    const { bytes, width, height } = result.picture;
    const said = {
      id: uuid(),
      about,
      aboutId: typeof aboutId === "string" ? aboutId : aboutId(),
      at: new Date().toISOString(),
    };
    await sendLater({
      id: said.id,
      unitId,
      kind: "picture",
      url: `/units/${unitId}/pictures?${new URLSearchParams(said).toString()}`,
      body: { ...said, width, height },
      bytes,
      type: "image/jpeg",
      what: label,
      at: said.at,
    });
    onTaken?.();
  };
  return (
    <span className="inline-flex flex-col">
      <label
        htmlFor={field}
        className="inline-flex min-h-11 cursor-pointer items-center gap-1.5 rounded border-[1.5px] border-line bg-raised px-3 text-[15px] focus-within:outline focus-within:outline-[3px] focus-within:outline-offset-2 focus-within:outline-rust hover:bg-green-soft"
      >
        <Camera aria-hidden size={18} />
        {busy ? "One moment …" : "Picture"}
        <input
          id={field}
          type="file"
          accept="image/*"
          capture="environment"
          aria-label={label}
          className="sr-only"
          disabled={busy}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void take(file);
          }}
        />
      </label>
      {problem && (
        <span role="alert" className="max-w-60 text-[14px] text-rust">
          {problem}
        </span>
      )}
    </span>
  );
};
