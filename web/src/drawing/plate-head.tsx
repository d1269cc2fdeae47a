import { X } from "lucide-react";

/** The head of a plate: tag, name, and the way to close it. */
export const PlateHead = ({
  name,
  tag,
  onClose,
}: {
  name: string;
  tag?: string | undefined;
  onClose: () => void;
}) => (
  <div className="flex items-start gap-2">
    {tag && (
      <span className="mt-0.5 rounded bg-green-soft px-2 py-0.5 font-bold text-green">{tag}</span>
    )}
    <h2 className="flex-1 text-lg font-bold">{name}</h2>
    <button
      type="button"
      onClick={onClose}
      aria-label="Close the plate"
      className="-mr-2 -mt-2 flex size-11 items-center justify-center rounded hover:bg-green-soft"
    >
      <X aria-hidden size={20} />
    </button>
  </div>
);
