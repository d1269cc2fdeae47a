import { fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, show } from "../../testing/house.tsx";
import { answering } from "../../testing/server.ts";
import { SetUpScreen } from "./set-up.tsx";

afterEach(() => vi.unstubAllGlobals());

const type = (label: string | RegExp, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};
const fillIn = (): void => {
  type("Code", "abcd-efgh-jkmn");
  type("Workshop's name", "Ford End Boats");
  type(/^Winter low/u, "-12");
  type("Your name", "A. Lead");
  type("Sign-in name", "ADA");
  type("Password", "a long enough one");
};
const open = async (answers: Parameters<typeof answering>[0] = {}) => {
  const asked = answering({ "GET /set-up": () => ({ body: { needed: true } }), ...answers });
  await show(<SetUpScreen />);
  await screen.findByRole("heading", { name: "Set up the workshop" });
  return asked;
};

describe("setting up the workshop", () => {
  it("sends what was typed, in SI and with a small sign-in name", async () => {
    const asked = await open({ "POST /set-up": () => ({ status: 201, body: ME }) });
    fillIn();
    fireEvent.click(screen.getByRole("button", { name: "Begin" }));
    await vi.waitFor(() =>
      expect(asked).toEqual([
        {
          route: "POST /set-up",
          body: {
            code: "abcd-efgh-jkmn",
            workshop: {
              name: "Ford End Boats",
              place: "",
              units: "metric.point",
              dates: "day-month-year",
              winterLowC: -12,
            },
            lead: { name: "A. Lead", signInName: "ada", password: "a long enough one" },
          },
        },
      ]),
    );
  });

  it("says beside each field what is missing, and sends nothing", async () => {
    const asked = await open();
    type("Password", "short");
    fireEvent.click(screen.getByRole("button", { name: "Begin" }));
    await vi.waitFor(() => expect(screen.getAllByRole("alert").length).toBeGreaterThanOrEqual(5));
    const words = screen.getAllByRole("alert").map((a) => a.textContent);
    expect(words).toEqual(
      expect.arrayContaining([
        expect.stringContaining("Type the code"),
        "Give the workshop a name.",
        "Ten letters at least.",
      ]),
    );
    expect(asked).toEqual([]);
  });

  it("says in the server's words that the code is another", async () => {
    const message = "That is not the code that was printed where the server was started.";
    await open({
      "POST /set-up": () => ({ status: 403, body: { error: { code: "not-allowed", message } } }),
    });
    fillIn();
    fireEvent.click(screen.getByRole("button", { name: "Begin" }));
    expect(await screen.findByText(message)).toBeTruthy();
  });

  it("loads the demo with the code alone, and shows its password once", async () => {
    const asked = await open({
      "POST /set-up": () => ({
        status: 201,
        body: { signInNames: ["odile", "amadi", "tam"], password: "0a1b2c-3d4e5f" },
      }),
    });
    fireEvent.click(screen.getByRole("button", { name: "Load the demo" }));
    expect((await screen.findByRole("alert")).textContent).toBe("Type the code first.");
    type("Code", "abcd-efgh-jkmn");
    fireEvent.click(screen.getByRole("button", { name: "Load the demo" }));
    expect(await screen.findByText("0a1b2c-3d4e5f")).toBeTruthy();
    expect(asked).toEqual([
      { route: "POST /set-up", body: { code: "abcd-efgh-jkmn", demo: true } },
    ]);
  });
});
