import { fireEvent, render, screen } from "@testing-library/react";
import { Provider } from "react-redux";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { makeStore } from "../../store/index.ts";
import { ME } from "../../testing/house.tsx";
import { answering } from "../../testing/server.ts";
import { JoinScreen } from "./join.tsx";

afterEach(() => vi.unstubAllGlobals());

const open = (answers: Parameters<typeof answering>[0]) => {
  const asked = answering(answers);
  render(
    <Provider store={makeStore()}>
      <MemoryRouter initialEntries={["/join/token"]}>
        <Routes>
          <Route path="/join/:token" element={<JoinScreen />} />
          <Route path="/" element={<p>The bench</p>} />
        </Routes>
      </MemoryRouter>
    </Provider>,
  );
  return asked;
};
const told = (signInName: string | null) => ({
  "GET /join/token": () => ({
    body: { workshop: "Ford End Boats", name: "T. New", role: "apprentice", signInName },
  }),
  "POST /join/token": () => ({ status: 201, body: ME }),
});
const type = (label: string | RegExp, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};

describe("a link to join by", () => {
  it("lets somebody new in under the name it was made for, or another", async () => {
    const asked = open(told(null));
    await screen.findByRole("heading", { name: "Join Ford End Boats" });
    type("Sign-in name", "tee");
    type(/^Password/u, "a long enough one");
    fireEvent.click(screen.getByRole("button", { name: "Join" }));
    await screen.findByText("The bench");
    expect(asked).toEqual([
      {
        route: "POST /join/token",
        body: { name: "T. New", signInName: "tee", password: "a long enough one" },
      },
    ]);
  });

  it("asks only for a password where it renews one", async () => {
    const asked = open(told("tee"));
    await screen.findByRole("heading", { name: "A new password for T. New" });
    expect(screen.queryByLabelText("Sign-in name")).toBeNull();
    type(/^Password/u, "short");
    fireEvent.click(screen.getByRole("button", { name: "Keep the new password" }));
    expect((await screen.findByRole("alert")).textContent).toMatch(/ten letters/u);
    type(/^Password/u, "a long enough one");
    fireEvent.click(screen.getByRole("button", { name: "Keep the new password" }));
    await screen.findByText("The bench");
    expect(asked).toEqual([{ route: "POST /join/token", body: { password: "a long enough one" } }]);
  });

  it("that is not good any more says so, and offers nothing to fill in", async () => {
    const message = "This link is not good any more: used, withdrawn or past its day.";
    open({
      "GET /join/token": () => ({ status: 410, body: { error: { code: "gone", message } } }),
    });
    expect((await screen.findByRole("alert")).textContent).toBe(message);
    expect(screen.queryByRole("button")).toBeNull();
  });
});
