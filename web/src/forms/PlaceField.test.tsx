import { act, fireEvent, screen } from "@testing-library/react";
import { FormProvider, useForm } from "react-hook-form";
import { afterEach, describe, expect, it, vi } from "vitest";

import { answering, show } from "../testing/testing";
import { type Place, PlaceField } from "./PlaceField";

const EARLIER: Place[] = [{ name: "Gravel pit", lat: 52.1, lon: 13.9 }];

const opened = (place: Place | null = null) => {
  const kept = vi.fn();
  const Holder = () => {
    const form = useForm({ defaultValues: { place } });
    return (
      <FormProvider {...form}>
        <PlaceField
          name="place"
          words="Berlin stands in."
          earlier={EARLIER}
          onKeep={() => kept(form.getValues("place"))}
        />
      </FormProvider>
    );
  };
  show(<Holder />);
  return kept;
};
const type = (label: string, text: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });

describe("where the rig stands", () => {
  afterEach(() => vi.unstubAllGlobals());

  it("says what stands in, finds a town as one types, and keeps it under a name", async () => {
    const found = [{ name: "Setúbal", country: "Portugal", lat: 38.52, lon: -8.89, timezone: "Europe/Lisbon" }];
    const asked = answering({ "GET text=setub": { found } });
    const kept = opened();
    expect(screen.getByText("Berlin stands in.")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Say where you are" }));
    fireEvent.click(screen.getByRole("button", { name: "Keep the place" }));
    expect(screen.getByRole("alert")).toHaveTextContent("Choose one of the places");
    type("A town, or degrees", "setub");
    fireEvent.click(await screen.findByRole("button", { name: /^Setúbal, Portugal/ }));
    type("What you call it", "Old field");
    fireEvent.click(screen.getByRole("button", { name: "Keep the place" }));
    expect(kept).toHaveBeenCalledWith({ name: "Old field", lat: 38.52, lon: -8.89 });
    expect(screen.getByText("Place: Old field")).toBeVisible();
    expect(asked.map((each) => each.path)).toEqual(["/api/places/find?text=setub"]);
  });

  it("takes degrees without the server", () => {
    answering({});
    const kept = opened();
    fireEvent.click(screen.getByRole("button", { name: "Say where you are" }));
    type("A town, or degrees", "54.3, -2.75");
    fireEvent.click(screen.getByRole("button", { name: /^54.30, -2.75/ }));
    type("What you call it", "Old field");
    fireEvent.keyDown(screen.getByLabelText("What you call it"), { key: "Enter" });
    expect(kept).toHaveBeenCalledWith({ name: "Old field", lat: 54.3, lon: -2.75 });
  });

  it("takes an earlier place at one choice", () => {
    const kept = opened();
    fireEvent.change(screen.getByLabelText("Pick an earlier place"), { target: { value: "Gravel pit" } });
    expect(kept).toHaveBeenCalledWith(EARLIER[0]);
  });

  it("asks the device only when it is touched, and says when that fails", () => {
    const getCurrentPosition = vi.fn();
    vi.stubGlobal("navigator", { ...navigator, geolocation: { getCurrentPosition } });
    opened({ name: "Quay", lat: 1, lon: 2 });
    fireEvent.click(screen.getByRole("button", { name: "Another place" }));
    expect(getCurrentPosition).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "Where this device is" }));
    const [found, failed] = getCurrentPosition.mock.calls[0] as [(at: object) => void, () => void];
    act(failed);
    expect(screen.getByRole("alert")).toHaveTextContent("The device did not say where it is.");
    act(() => found({ coords: { latitude: 37.123456, longitude: -8.9 } }));
    expect(screen.getByLabelText("A town, or degrees")).toHaveValue("37.1235, -8.9000");
    expect(screen.getByLabelText("What you call it")).toBeVisible();
  });
});
