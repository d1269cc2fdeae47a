import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import { ME, show } from "../../testing/house.tsx";
import { Reckoner } from "./reckoner.tsx";

afterEach(cleanup);
const Here = () => <output data-testid="here">{useLocation().search}</output>;

const open = (path: string, units: "metric" | "us" = "us") =>
  show(
    <>
      <Here />
      <Routes>
        <Route path="/" element={<Navigate to={path} replace />} />
        <Route path="/reckoner" element={<Reckoner />} />
        <Route path="/reckoner/:name" element={<Reckoner />} />
      </Routes>
    </>,
    { ...ME, workshop: { ...ME.workshop, units } },
  );
const answer = () => screen.getByRole("region", { name: "Answer" });
const type = (label: string, text: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });

describe("the reckoner", () => {
  it("has what fits beside its calculations: three quarter inch beside 22 mm is measured again", async () => {
    await open("/reckoner/what-fits");
    expect(screen.getByRole("link", { name: /^What fits/u })).toBeTruthy();
    type("Outside", "22.1 mm");
    const fits = within(screen.getByRole("region", { name: "What fits" }));
    expect(fits.getByRole("status").textContent).toContain("Measure again");
  });

  it("works out what is typed, in the workshop's units, with the working opened and the rule of thumb beside it", async () => {
    await open("/reckoner/pipe-loss");
    type("Flow", "2");
    type("Bore", "0.475 in");
    type("Length", "10 ft");
    type("Temperature", "60 F");
    // 0.664 psi, worked by hand from the Swamee-Jain formula.
    expect(within(answer()).getByText(/^0\.66\d psi$/u)).toBeTruthy();
    expect(screen.getByRole("region", { name: "Working" }).textContent).toContain(
      "(f · L/d + K) · ρ · v²/2",
    );
    expect(screen.getByText(/Hazen-Williams/u)).toBeTruthy();
    expect(screen.getByText(/^Source: Darcy-Weisbach/u)).toBeTruthy();
  });

  it("reads its figures from the link and writes them back into it", async () => {
    await open("/reckoner/tank-fill?volume=60+US+gal&flow=3+gpm");
    expect(within(answer()).getByText("20 min")).toBeTruthy();
    type("Flow", "6 gpm");
    expect(within(answer()).getByText("10 min")).toBeTruthy();
    expect(new URLSearchParams(screen.getByTestId("here").textContent ?? "").get("flow")).toBe(
      "6 gpm",
    );
  });

  it("says beside the input what cannot be, keeps what was typed and gives no answer", async () => {
    await open("/reckoner/tank-fill", "metric");
    type("Volume", "60 psi");
    expect(screen.getByRole("alert").textContent).toContain("Volume: ");
    expect(screen.getByLabelText<HTMLInputElement>("Volume").value).toBe("60 psi");
    expect(answer().textContent).toContain("cannot be read");
    type("Volume", "1000000 L");
    expect(screen.getByRole("alert").textContent).toContain("between");
    type("Volume", "90");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("says why figures that do not go together have no answer, and begins with the first calculation", async () => {
    await open("/reckoner/glycol-mix?product=30%25&strength=40%25");
    expect(answer().textContent).toContain("more than its own strength");
    expect(screen.getAllByRole("link").length).toBeGreaterThan(10);
  });

  it("draws how the answer runs against any input, and says the same in words", async () => {
    await open("/reckoner/tank-fill?volume=60+US+gal&flow=3+gpm");
    const picture = within(screen.getByRole("region", { name: "Picture" }));
    const drawn = await picture.findByRole("img", { name: /20 min at 60 US gal as asked/u });
    expect(drawn.getAttribute("aria-label")).toMatch(
      /5 min at 15 US gal, .*80 min at 240 US gal$/u,
    );
    const along = picture.getByLabelText<HTMLSelectElement>("If another were asked:");
    fireEvent.change(along, { target: { value: "flow" } });
    expect(
      await picture.findByRole("img", { name: /20 min at 3 US gal\/min as asked/u }),
    ).toBeTruthy();
    type("Flow", "6");
    expect(
      await picture.findByRole("img", { name: /10 min at 6 US gal\/min as asked/u }),
    ).toBeTruthy();
  });
});
