import type { Verdict } from "@uppershed/core/contents";
import { reachOf } from "@uppershed/core/survey";
import type { Lineup, Network } from "@uppershed/core/watermap";
import { Undo2 } from "lucide-react";
import { useState } from "react";
import { FrostLadder } from "../frost/ladder.tsx";
import { ReachList } from "../mapping/reach-list.tsx";
import { Button } from "../ui/button.tsx";
import { ActionSheet } from "./action-sheet.tsx";
import { FlowsTab } from "./flows-tab.tsx";
import { NightList } from "./night-list.tsx";
import { type Begun, StepsTab } from "./steps-tab.tsx";
import { stateNow } from "./use-sandbox.ts";

const TRY_TABS = ["Steps", "Flows", "Frost", "Reach"] as const;
export type TryTab = (typeof TRY_TABS)[number];

export interface TryPanelProps extends Begun {
  readonly network: Network;
  readonly verdict: Verdict;
  readonly winterLowC: number;
  readonly onKeep: () => void;
  /** Why it cannot be kept as a note now. */
  readonly notKept?: string | undefined;
  readonly onChoose: (id: string) => void;
  readonly tab: TryTab;
  readonly onTab: (tab: TryTab) => void;
}

const Tabs = ({ tab, onTab }: Pick<TryPanelProps, "tab" | "onTab">) => (
  <div role="tablist" aria-label="Try it" className="flex border-b border-line">
    {TRY_TABS.map((name) => (
      <button
        key={name}
        type="button"
        role="tab"
        aria-selected={tab === name}
        aria-controls="try-tab"
        className={`min-h-11 flex-1 text-[14px] font-semibold ${tab === name ? "border-b-4 border-green" : "text-muted hover:bg-green-soft"}`}
        onClick={() => onTab(name)}
      >
        {name}
      </button>
    ))}
  </div>
);

/** Back a step, from the beginning again, or kept as a note. */
const Foot = ({
  sandbox,
  standing,
  onBegin,
  onKeep,
  notKept,
}: Pick<TryPanelProps, "sandbox" | "standing" | "onBegin" | "onKeep" | "notKept">) => {
  const { state } = sandbox;
  const untouched = state.done.length === 0;
  const look = "whitespace-nowrap px-2 text-[14px]!";
  return (
    <div className="flex items-center gap-1.5 border-t border-line px-3 py-2">
      <Button
        className={look}
        disabled={untouched || state.busy}
        aria-keyshortcuts="Control+Z"
        onClick={sandbox.back}
      >
        <Undo2 aria-hidden size={18} /> Step back
      </Button>
      <Button className={look} disabled={untouched} onClick={() => onBegin(state.start, standing)}>
        Again
      </Button>
      <Button
        className={look}
        disabled={untouched || notKept !== undefined}
        title={notKept}
        onClick={onKeep}
      >
        Keep note
      </Button>
      <span role="status" className="sr-only">
        {state.busy ? "Working it out" : ""}
      </span>
    </div>
  );
};

/** Try mode's margin: what is done and what came of it, flows, frost, and what is reached. */
export const TryPanel = (props: TryPanelProps) => {
  const { network, sandbox, verdict, winterLowC, onChoose, tab, onTab } = props;
  const [sheet, setSheet] = useState<string>();
  const now = stateNow(sandbox.state);
  const lineup: Lineup = sandbox.shown?.lineup ?? {};
  return (
    <section aria-label="Try it" className="flex min-h-0 flex-1 flex-col">
      <Tabs tab={tab} onTab={onTab} />
      <div id="try-tab" role="tabpanel" aria-label={tab} className="min-h-0 flex-1 overflow-auto">
        {tab === "Steps" && (
          <StepsTab
            network={network}
            sandbox={sandbox}
            standing={props.standing}
            recorded={props.recorded}
            onBegin={props.onBegin}
            onSheet={setSheet}
          />
        )}
        {tab === "Flows" && <FlowsTab network={network} sandbox={sandbox} />}
        {tab === "Frost" && (
          <>
            <div className="h-[300px]">
              <FrostLadder verdict={verdict} winterLowC={winterLowC} onChoose={onChoose} />
            </div>
            <NightList network={network} sandbox={sandbox} />
          </>
        )}
        {tab === "Reach" && (
          <ReachList network={network} lineup={lineup} reaches={reachOf(network, lineup)} />
        )}
      </div>
      <Foot {...props} />
      {sheet !== undefined && now && (
        <ActionSheet
          network={network}
          state={now}
          first={sheet}
          onDo={sandbox.act}
          onClose={() => setSheet(undefined)}
        />
      )}
    </section>
  );
};
