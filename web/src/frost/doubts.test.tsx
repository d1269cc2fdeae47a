import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { Doubts } from "./doubts.tsx";

afterEach(cleanup);
const doubt = (id: string, because: string) => ({
  id,
  name: `the ${id}`,
  because,
  becauseName: `the ${because}`,
  ask: `Look at the ${because}.`,
});

describe("what cannot be told", () => {
  it("is said once for each thing to be found out, with what rests on it", () => {
    render(
      <Doubts
        doubts={[
          doubt("v7", "v7"),
          doubt("galley", "v7"),
          doubt("shower", "v7"),
          doubt("check", "check"),
        ]}
      />,
    );
    expect(screen.getAllByRole("listitem").map((li) => li.textContent)).toEqual([
      "the v7: Look at the v7.Rests on it: the galley; the shower",
      "the check: Look at the check.",
    ]);
  });
  it("is nothing where nothing is in doubt", () => {
    const { container } = render(<Doubts doubts={[]} />);
    expect(container.textContent).toBe("");
  });
});
