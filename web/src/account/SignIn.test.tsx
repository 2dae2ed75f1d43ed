import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../testing/testing";
import { SignIn } from "./SignIn";

const nobody: Schemas["Me"] = { username: null, demo: false, first: false, code: false, rigs: [] };

const enter = (name: string, password: string) => {
  fireEvent.change(screen.getByLabelText("Account"), { target: { value: name } });
  fireEvent.change(screen.getByLabelText(/^Password/), { target: { value: password } });
};

describe("signing in", () => {
  it("offers the demo in demo mode only", () => {
    const { unmount } = show(<SignIn me={nobody} />);
    expect(screen.queryByRole("button", { name: "Enter the demo" })).toBeNull();
    unmount();
    show(<SignIn me={{ ...nobody, demo: true }} />);
    expect(screen.getByRole("button", { name: "Enter the demo" })).toBeVisible();
  });

  it("sends name and password, and says what was refused without losing them", async () => {
    const asked = answering({
      "POST /sign-in": { status: 422, place: "password", problem: "Account and password do not go together." },
    });
    show(<SignIn me={nobody} />);
    enter("mira", "not-the-one");
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("do not go together");
    expect(asked[0]?.body).toEqual({ username: "mira", password: "not-the-one" });
    expect(screen.getByLabelText("Account")).toHaveValue("mira");
  });

  it("asks for the code from the terminal where a network is served", async () => {
    const asked = answering({ "POST /first": { status: 422, place: "code", problem: "this is not the code" } });
    show(<SignIn me={{ ...nobody, first: true, code: true }} />);
    enter("mira", "a-long-word-9");
    fireEvent.change(screen.getByLabelText(/^Code from the server/), { target: { value: "ABCD-2345" } });
    fireEvent.click(screen.getByRole("button", { name: "Make the account" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("this is not the code");
    expect(asked[0]?.body).toEqual({ username: "mira", password: "a-long-word-9", code: "ABCD-2345" });
  });

  it("makes the first account on a new server", async () => {
    const asked = answering({ "POST /first": { ...nobody, username: "mira" } });
    show(<SignIn me={{ ...nobody, first: true }} />);
    expect(screen.getByText(/The first one is yours/)).toBeVisible();
    enter("mira", "a-long-word-9");
    fireEvent.click(screen.getByRole("button", { name: "Make the account" }));
    await waitFor(() => expect(asked[0]?.path).toBe("/api/account/first"));
  });
});
