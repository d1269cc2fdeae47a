import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { show } from "../testing/house.tsx";
import { FitCheck } from "./fit-check.tsx";

beforeEach(async () => {
  await show(<FitCheck />);
});
afterEach(cleanup);

const type = (label: string, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};

describe("what fits", () => {
  it("takes a bare number as millimetres, names the system, and what looks like it and leaks", () => {
    type("Outside", "15.0");
    const said = screen.getByRole("status");
    expect(said.textContent).toContain("It is: 15 mm");
    expect(said.textContent).toContain("1/2 in tube is 15.88 mm");
    expect(said.textContent).toContain("drinking water");
  });

  it("wants the measure again between two sizes, and says what is wrong with what is none", () => {
    type("Outside", "22.1");
    expect(screen.getByRole("status").textContent).toContain("Measure again");
    type("Outside", "wide");
    expect(screen.queryByRole("status")).toBeNull();
    expect(screen.getByRole("alert")).toBeTruthy();
  });
});
