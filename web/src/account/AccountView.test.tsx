import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../testing/testing";
import { AccountView } from "./AccountView";

const NOBODY: Schemas["Me"] = { username: null, demo: false, first: false, code: false, rigs: [] };
const type = (label: RegExp | string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));

describe("an account", () => {
  it("changes its password once, and empties the fields", async () => {
    const asked = answering({ "POST /account/password": null });
    show(<AccountView />);
    type("Password now", "the-old-one-9");
    type("New password", "another-one-9");
    press("Change the password");
    expect(await screen.findByText(/The password is changed/)).toBeVisible();
    expect(asked).toHaveLength(1);
    expect(asked[0]?.body).toEqual({ password: "the-old-one-9", new_password: "another-one-9" });
    expect(screen.getByLabelText("Password now")).toHaveValue("");
  });

  it("says at the field what was refused, and keeps what was typed", async () => {
    answering({ "POST /account/password": { status: 422, place: "new_password", problem: "it is too common" } });
    show(<AccountView />);
    type("Password now", "the-old-one-9");
    type("New password", "password");
    press("Change the password");
    expect(await screen.findByText(/it is too common/i)).toBeVisible();
    expect(screen.getByLabelText("New password")).toHaveValue("password");
  });

  it("is deleted only with its password, and not by one touch", async () => {
    const asked = answering({ "POST /account/delete": NOBODY });
    show(<AccountView />);
    press("Delete this account ...");
    expect(screen.getByText(/stays with its rigs/)).toBeVisible();
    press("Delete this account for good");
    expect(await screen.findByText("Write something here.")).toBeVisible();
    expect(asked).toHaveLength(0);
    press("Keep it");
    expect(screen.queryByLabelText(/Password, to be sure/)).toBeNull();
    press("Delete this account ...");
    type(/Password, to be sure/, "the-old-one-9");
    press("Delete this account for good");
    await waitFor(() => expect(asked[0]?.body).toEqual({ password: "the-old-one-9" }));
  });
});
