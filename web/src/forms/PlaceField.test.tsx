import { act, fireEvent, screen } from "@testing-library/react";
import { FormProvider, useForm } from "react-hook-form";
import { afterEach, describe, expect, it, vi } from "vitest";

import { show } from "../testing/testing";
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

  it("says what stands in, and keeps a place that was typed only when it is whole", () => {
    const kept = opened();
    expect(screen.getByText("Berlin stands in.")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Say where you are" }));
    type("Name of the place", "Old field");
    type("Latitude, degrees north", "95");
    fireEvent.click(screen.getByRole("button", { name: "Keep the place" }));
    expect(screen.getByRole("alert")).toHaveTextContent("A latitude lies between -90 and 90.");
    type("Latitude, degrees north", "54.3");
    fireEvent.click(screen.getByRole("button", { name: "Keep the place" }));
    expect(screen.getByRole("alert")).toHaveTextContent("Write the longitude in degrees");
    expect(kept).not.toHaveBeenCalled();
    type("Longitude, degrees east", "-2.75");
    fireEvent.click(screen.getByRole("button", { name: "Keep the place" }));
    expect(kept).toHaveBeenCalledWith({ name: "Old field", lat: 54.3, lon: -2.75 });
    expect(screen.getByText("Place: Old field")).toBeVisible();
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
    expect(screen.getByLabelText("Latitude, degrees north")).toHaveValue("37.1235");
  });
});
