import type { PictureMark } from "@uppershed/core/inspection";
import { ArrowUpRight, Circle, Undo2 } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { PictureNow } from "../sending/on-device.ts";
import { problemText, useChangePictureMutation } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { dayOf, timeOf } from "../ui/words.ts";
import { Marks, saysOf } from "./marks.tsx";
import { usePictureSource } from "./use-picture-source.ts";

const within = (v: number, least = 0, most = 1): number => Math.min(most, Math.max(least, v));
const MOST_MARKS = 20;
const STEP = 0.02;
const START: Record<PictureMark["kind"], PictureMark> = {
  ring: { kind: "ring", x: 0.5, y: 0.5, r: 0.12 },
  arrow: { kind: "arrow", x: 0.25, y: 0.25, toX: 0.5, toY: 0.5 },
};

const moved = (mark: PictureMark, dx: number, dy: number): PictureMark =>
  mark.kind === "ring"
    ? { ...mark, x: within(mark.x + dx), y: within(mark.y + dy) }
    : {
        ...mark,
        x: within(mark.x + dx),
        y: within(mark.y + dy),
        toX: within(mark.toX + dx),
        toY: within(mark.toY + dy),
      };

const sized = (mark: PictureMark, by: number): PictureMark =>
  mark.kind === "ring"
    ? { ...mark, r: within(mark.r * by, 0.01, 0.7) }
    : {
        ...mark,
        toX: within(mark.x + (mark.toX - mark.x) * by),
        toY: within(mark.y + (mark.toY - mark.y) * by),
      };

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

/** One picture, large: its words, and an arrow or a ring drawn on it by finger or by keys. Its pixels stay as they are. */
export const PictureSheet = ({
  picture,
  onClose,
}: {
  picture: PictureNow;
  onClose: () => void;
}) => {
  const source = usePictureSource(picture);
  const [change, changing] = useChangePictureMutation();
  const [marks, setMarks] = useState<readonly PictureMark[]>(picture.marks);
  const [caption, setCaption] = useState(picture.caption);
  const [tool, setTool] = useState<PictureMark["kind"]>("ring");
  const drawing = useRef<{ x: number; y: number } | undefined>(undefined);
  const aspect = picture.width / picture.height;
  const sent = picture.bytesHere === undefined;
  const at = (event: PointerEvent): { x: number; y: number } => {
    const box = event.currentTarget.getBoundingClientRect();
    return {
      x: within((event.clientX - box.left) / box.width),
      y: within((event.clientY - box.top) / box.height),
    };
  };
  const made = (from: { x: number; y: number }, to: { x: number; y: number }): PictureMark =>
    tool === "ring"
      ? {
          kind: "ring",
          ...from,
          r: within(Math.hypot(to.x - from.x, (to.y - from.y) / aspect), 0.03, 0.7),
        }
      : { kind: "arrow", ...from, toX: to.x, toY: to.y };
  const keys = (event: KeyboardEvent): void => {
    const step = ARROWS[event.key];
    const last = marks.at(-1);
    if (!last) return;
    const put = (mark: PictureMark): void => {
      event.preventDefault();
      setMarks([...marks.slice(0, -1), mark]);
    };
    if (step) put(moved(last, ...step));
    else if (event.key === "+") put(sized(last, 1.1));
    else if (event.key === "-") put(sized(last, 1 / 1.1));
    else if (event.key === "Delete" || event.key === "Backspace") {
      event.preventDefault();
      setMarks(marks.slice(0, -1));
    }
  };
  const keep = async (): Promise<void> => {
    const reply = await change({
      id: picture.id,
      change: { marks: [...marks], caption: caption.trim() },
    });
    if (!reply.error) onClose();
  };
  const add = (kind: PictureMark["kind"]): void => {
    setTool(kind);
    if (marks.length < MOST_MARKS) setMarks([...marks, START[kind]]);
  };
  return (
    <Sheet open onClose={onClose} title={picture.caption || "Picture"}>
      <p className="mb-2 text-[14px] text-muted">
        {dayOf(picture.at)} {timeOf(picture.at)}
        {picture.by && `, ${picture.by}`}.{" "}
        {sent
          ? "Draw on it with a finger, or add a mark and move it with the arrow keys."
          : "It can be marked once it is sent."}
      </p>
      {/* A mark is moved by keys: the picture is a field of its own. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions jsx-a11y/no-noninteractive-tabindex */}
      <div
        role="application"
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        aria-label={`The picture${saysOf(marks)}. Arrow keys move the last mark, plus and minus change its size, Delete takes it away.`}
        className="relative touch-none select-none"
        style={{ aspectRatio: aspect }}
        onKeyDown={keys}
        onPointerDown={(event) => {
          if (!sent || marks.length >= MOST_MARKS) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const from = at(event);
          drawing.current = from;
          setMarks([...marks, made(from, from)]);
        }}
        onPointerMove={(event) => {
          const from = drawing.current;
          if (from) setMarks([...marks.slice(0, -1), made(from, at(event))]);
        }}
        onPointerUp={() => {
          drawing.current = undefined;
        }}
      >
        <img
          src={source}
          alt={picture.caption || "Picture"}
          className="size-full"
          draggable={false}
        />
        <Marks marks={marks} aspect={aspect} />
      </div>
      {sent && (
        <>
          <div role="group" aria-label="Marks" className="mt-3 flex flex-wrap gap-2">
            <Button look={tool === "ring" ? "act" : "plain"} onClick={() => add("ring")}>
              <Circle aria-hidden size={18} /> Ring
            </Button>
            <Button look={tool === "arrow" ? "act" : "plain"} onClick={() => add("arrow")}>
              <ArrowUpRight aria-hidden size={18} /> Arrow
            </Button>
            <Button disabled={marks.length === 0} onClick={() => setMarks(marks.slice(0, -1))}>
              <Undo2 aria-hidden size={18} /> Take the last away
            </Button>
          </div>
          <label className="mt-3 block text-[15px] font-semibold">
            What it shows
            <input
              className="field mt-1 w-full font-normal"
              maxLength={200}
              value={caption}
              onChange={(e) => setCaption(e.target.value)}
            />
          </label>
          {changing.error && (
            <p role="alert" className="mt-2 text-rust">
              {problemText(changing.error)}
            </p>
          )}
          <Button
            look="act"
            big
            className="mt-4"
            disabled={changing.isLoading}
            onClick={() => void keep()}
          >
            Keep
          </Button>
        </>
      )}
    </Sheet>
  );
};
