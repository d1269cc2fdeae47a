import {
  applyEvent,
  type AskedBody,
  type Entered,
  enterAlone,
  enterPlan,
  type Refused,
  replayRun,
  type RunBegins,
  type RunEvent,
  type RunSetup,
  type RunState,
  runsMovedNext,
  turnSays,
  type UnreadEntry,
} from "@uppershed/core/procedure";
import { buildNetwork, type Network, type WaterMap } from "@uppershed/core/watermap";
import { makerFor } from "./maker.ts";

/** Where a run begins, for whoever has not seen it yet. */
export interface RunBase {
  readonly map: WaterMap;
  readonly setup: RunSetup;
  readonly begins: RunBegins | null;
  readonly unread: readonly UnreadEntry[];
}

/** A run as it stands where something is asked of it: what the engine does not have of it yet. */
export interface RunNews {
  readonly runId: string;
  /** Present where what the engine has of the run does not go on to this, or it has nothing. */
  readonly base: RunBase | undefined;
  /** Entries that have effect, since the last that the engine has. */
  readonly events: readonly RunEvent[];
}

export type RunEntered = { readonly ok: true; readonly events: readonly RunEvent[] } | Refused;

interface Following {
  readonly runId: string;
  readonly network: Network;
  state: RunState;
}

/**
 * The engine at a run's side: it follows the run's entries, makes new ones whole with what it says of the unit, and makes the plans that they
 * call for. What it once worked out of a network stays with it, so that a step that goes as planned costs next to nothing.
 */
export class RunEngine {
  #following: Following | undefined;

  /** Enters what a person does; the plan that it may call for is asked for by itself, once this is safe. */
  enter(news: RunNews, body: AskedBody, by: RunEvent["by"], at: string): RunEntered {
    const run = this.#follow(news);
    return this.#keep(run, enterAlone(run.state, body, makerFor(run.state, by, at)));
  }

  /** Makes the plan that a run waits for; nothing where it waits for none. */
  plan(news: RunNews, by: RunEvent["by"]): RunEntered {
    const run = this.#follow(news);
    return this.#keep(run, enterPlan(run.state, makerFor(run.state, by)));
  }

  /** The pipes in which liquid will move when the step in hand is done. */
  movedNext(news: RunNews): string[] {
    return [...runsMovedNext(this.#follow(news).state)];
  }

  /** What would come of turning the valve of a row now. */
  turnSays(news: RunNews, row: string): string[] {
    return turnSays(this.#follow(news).state, row);
  }

  #follow({ runId, base, events }: RunNews): Following {
    if (base) {
      // The same map again: what is known of its network is known.
      const before = this.#following;
      const network =
        before?.runId === runId && JSON.stringify(before.network.map) === JSON.stringify(base.map)
          ? before.network
          : buildNetwork(base.map);
      const replayed = replayRun({
        network,
        setup: base.setup,
        begins: base.begins ?? undefined,
        events,
        unread: base.unread,
      });
      this.#following = {
        runId,
        network,
        state: replayed.whole ? replayed.state : replayed.stateWithout,
      };
      return this.#following;
    }
    if (this.#following?.runId !== runId) throw new Error("Nothing is known of this run yet.");
    for (const event of events) {
      const applied = applyEvent(this.#following.state, event);
      if (applied.ok) this.#following.state = applied.state;
    }
    return this.#following;
  }

  #keep(run: Following, entered: Entered): RunEntered {
    if (!entered.ok) return entered;
    run.state = entered.state;
    return { ok: true, events: entered.events };
  }
}
