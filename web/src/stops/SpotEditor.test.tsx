import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { aBook, aSpot } from "../testing/stops";
import { answering, show } from "../testing/testing";
import { SpotEditor } from "./SpotEditor";

const NEW = "POST /places";
const type = (label: string, value: string) => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};
const keep = () => fireEvent.click(screen.getByRole("button", { name: "Keep" }));
const opened = (answers: Record<string, unknown> = { [NEW]: { id: "mill" } }, place: string | null = null) => {
  const asked = answering(answers);
  const close = vi.fn();
  const services = [{ id: "water", name: "water", needed: true }];
  show(<SpotEditor rig={7} place={place} book={{ ...aBook([aSpot()]), services }} close={close} />);
  return { asked: () => asked.filter((each) => each.method !== "GET"), close };
};

describe("a place of the book", () => {
  it("is kept with what was said of it alone", async () => {
    const { asked, close } = opened();
    type("Name", "Mill spring");
    type("Latitude", "54.1");
    type("Longitude", "-2.2");
    fireEvent.click(screen.getByRole("button", { name: "water" }));
    type("Flow a minute, L", "7");
    keep();
    await waitFor(() => expect(close).toHaveBeenCalled());
    const { spot, plain } = asked()[0]?.body as { spot: object; plain: unknown };
    expect(plain).toBeNull();
    expect(spot).toMatchObject({ name: "Mill spring", lat: 54.1, services: { water: { l_per_min: 7 } } });
    expect(spot).toMatchObject({ opening_hours: null, fee: null });
  });

  it("is not sent without a place on the earth, and says at the field what is missing", async () => {
    const { asked } = opened();
    type("Name", "Mill spring");
    type("Latitude", "91");
    type("Longitude", "-2.2");
    keep();
    expect(await screen.findByText("Write a number of at most 90.")).toBeVisible();
    expect(asked()).toEqual([]);
  });

  it("asks for the notation of its hours where they are said by it", async () => {
    const { asked } = opened();
    type("Name", "Mill spring");
    type("Latitude", "54.1");
    type("Longitude", "-2.2");
    fireEvent.change(screen.getByLabelText("Open"), { target: { value: "notation" } });
    keep();
    expect(await screen.findByText("Write something here.")).toBeVisible();
    type("Opening hours", "Mo-Sa 08:00-18:00");
    keep();
    await waitFor(() => expect(asked()).toHaveLength(1));
    expect(asked()[0]?.body).toMatchObject({ spot: { opening_hours: "Mo-Sa 08:00-18:00" } });
  });

  it("stands as it was typed where the server refuses it", async () => {
    const { close } = opened({ [NEW]: { status: 422, place: "spot.name", problem: "this name is taken" } });
    type("Name", "Quarry tap");
    type("Latitude", "54.1");
    type("Longitude", "-2.2");
    keep();
    expect(await screen.findByText(/this name is taken/i)).toBeVisible();
    expect(screen.getByLabelText("Name")).toHaveValue("Quarry tap");
    expect(close).not.toHaveBeenCalled();
  });
});
