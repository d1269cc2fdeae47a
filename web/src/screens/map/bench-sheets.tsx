import type { Unit } from "@uppershed/contract";
import type { Lineup, MapLayout } from "@uppershed/core/watermap";
import { lazy, Suspense } from "react";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { SaveSheet } from "./save-sheet.tsx";
import type { MapDocument } from "./use-document.ts";

// Files and sisters are wanted now and then: what they are read and written with is fetched then.
const FileSheet = lazy(async () => ({
  default: (await import("../../mapping/file-sheet.tsx")).FileSheet,
}));
const SisterSheet = lazy(async () => ({
  default: (await import("./sister-sheet.tsx")).SisterSheet,
}));

export type BenchSheet = "save" | "files" | "sister";

const LeaveSheet = ({ blocker }: Pick<MapDocument, "blocker">) => (
  <Sheet
    open={blocker.state === "blocked"}
    onClose={() => blocker.reset?.()}
    title="The map is not saved"
  >
    <p>What was changed on the bench is kept nowhere else yet.</p>
    <div className="mt-4 flex gap-2">
      <Button look="act" big onClick={() => blocker.reset?.()}>
        Stay
      </Button>
      <Button look="rust" big onClick={() => blocker.proceed?.()}>
        Leave without it
      </Button>
    </div>
  </Sheet>
);

/** What goes in and out of the map as a whole: saving, files, a sister unit, and leaving it unsaved. */
export const BenchSheets = ({
  unit,
  document,
  sheet,
  lineup,
  layout,
  proposal,
  onSaved,
  onClose,
}: {
  unit: Unit;
  document: MapDocument;
  sheet: BenchSheet | undefined;
  lineup: Lineup;
  layout: MapLayout | undefined;
  proposal: boolean;
  onSaved: (revision: number) => void;
  onClose: () => void;
}) => {
  const { editor, apply } = document;
  const save = async (why: string): Promise<string | undefined> => {
    const saved = await document.save(why);
    if (!saved.ok) return saved.problem;
    onSaved(saved.revision);
    return undefined;
  };
  return (
    <>
      <SaveSheet proposal={proposal} open={sheet === "save"} onSave={save} onClose={onClose} />
      <Suspense>
        {sheet === "files" && (
          <FileSheet
            onClose={onClose}
            map={editor.map}
            lineup={lineup}
            layout={layout}
            lives={document.lives}
            onTake={(next, lives) => {
              apply(() => next);
              document.takeLives(lives);
            }}
          />
        )}
        {sheet === "sister" && (
          <SisterSheet
            onClose={onClose}
            unit={unit}
            map={editor.map}
            onBring={(next, upTo) => {
              apply(() => next);
              document.takeSibling(upTo);
            }}
          />
        )}
      </Suspense>
      <LeaveSheet blocker={document.blocker} />
    </>
  );
};
